<script lang="ts">
  import { onMount } from 'svelte';
  import { heed } from '../../parts/other-tabs';
  import DifferenceList from './DifferenceList.svelte';
  import type { WorkbenchState } from './workbench.svelte';

  let { bench }: { bench: WorkbenchState } = $props();

  onMount(() =>
    heed((told) => {
      if (told.plan === bench.id) void bench.doc.checkStanding();
    }),
  );
</script>

<svelte:document
  onvisibilitychange={() => {
    if (!document.hidden) void bench.doc.checkStanding();
  }}
/>

{#if bench.doc.stale}
  {@const { theirs, mine } = bench.doc.stale}
  <div role="alert" class="no-print flex flex-wrap items-start gap-3 border-b-2 border-ink bg-well px-3 py-2">
    <div class="min-w-64 grow">
      <p>
        <b>This plan was changed in another tab or by someone else.</b>
        {mine ? 'Your last edit was not applied; nothing' : 'Nothing'} of theirs was overwritten.
      </p>
      {#if theirs}
        <details>
          <summary class="cursor-pointer">What changed there</summary>
          <DifferenceList difference={theirs} done />
        </details>
      {/if}
    </div>
    {#if mine}<button class="btn btn-main" onclick={() => bench.doc.merge()}
        >Put my edit on top of theirs</button
      >{/if}
    <button class="btn {mine ? '' : 'btn-main'}" onclick={() => bench.doc.opening.load()}
      >Show the newest</button
    >
  </div>
{/if}
