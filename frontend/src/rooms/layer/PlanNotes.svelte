<script lang="ts">
  import type { Workbench } from '../../api/client';
  import { words } from '../../parts/vocabulary.svelte';

  /** What the planner has to say about the whole plan, and what it left bare on purpose. */
  let { plan }: { plan: Workbench } = $props();
</script>

{#if plan.notes?.length}
  <section class="panel p-2.5" aria-label="About this plan">
    <h2 class="heading">About this plan</h2>
    <ul class="list-disc pl-4">
      {#each plan.notes as note (note)}<li>{note}</li>{/each}
    </ul>
  </section>
{/if}
{#if plan.left_bare?.length}
  <details class="panel p-2.5">
    <summary class="heading cursor-pointer">Left bare on purpose ({plan.left_bare.length})</summary>
    <ul class="mt-1 flex flex-col gap-0.5">
      {#each plan.left_bare as bare (bare.zone + bare.kind)}
        <li><b>{words.zone(bare.zone)}</b>, no {words.step(bare.kind).toLowerCase()}: {bare.why}</li>
      {/each}
    </ul>
  </details>
{/if}
