<script lang="ts">
  import { words } from '../../parts/vocabulary.svelte';
  import type { Moving } from './moving.svelte';
  import SeverityMark from './SeverityMark.svelte';
  import TrialList from './TrialList.svelte';
  import type { WorkbenchState } from './workbench.svelte';

  let { bench, moving }: { bench: WorkbenchState; moving: Moving } = $props();

  const target = $derived(bench.doc.plan?.steps.find((step) => step.id === moving.gap?.before));
  const where = $derived(
    target ? `before ${bench.doc.number(target.id)}, ${words.step(target.kind).toLowerCase()}` : 'to the end',
  );
</script>

<svelte:window onkeydowncapture={(event) => moving.key(event)} />

{#if moving.step && moving.gap}
  {@const gap = moving.gap}
  <div
    data-moving
    class="panel no-print fixed bottom-3 left-1/2 z-30 w-[34rem] max-w-[94vw] -translate-x-1/2 border-2 p-3 shadow-raised {gap.refused
      ? 'border-ink'
      : 'border-accent'}"
  >
    <div role="status" aria-label="The step that is held">
      <p class="flex items-center gap-1.5">
        {#if gap.refused}<SeverityMark severity="stop" size={14} />{/if}
        <b>{words.step(moving.step.kind)}</b>
        {gap.here ? 'where it stands' : where}
      </p>
      {#if gap.refused}
        <p><b>Not possible.</b> {gap.refused}.</p>
      {:else if gap.here}
        <p class="label">Arrows hold it elsewhere, Enter puts it down, Escape leaves it.</p>
      {:else if moving.trial}
        <TrialList trial={moving.trial} short />
      {:else}
        <p class="label">Trying it there…</p>
      {/if}
    </div>
    {#if moving.stays}
      <div class="mt-2 flex flex-wrap gap-2">
        <button class="btn" onclick={() => moving.hold(moving.over - 1)}>Earlier</button>
        <button class="btn" onclick={() => moving.hold(moving.over + 1)}>Later</button>
        <button
          class="btn btn-main"
          disabled={gap.here || Boolean(gap.refused) || bench.doc.busy}
          onclick={() => moving.put()}>Put it there</button
        >
        <button class="btn" onclick={() => moving.leave()}>Leave it where it was</button>
      </div>
    {/if}
  </div>
{/if}
