<script lang="ts">
  import { sameMix, zonesOf } from '../../plan/steps';
  import type { Edit, Step } from '../../api/client';
  import { words } from '../../parts/vocabulary.svelte';
  import type { WorkbenchState } from './workbench.svelte';

  let { bench, step }: { bench: WorkbenchState; step: Step } = $props();
  const zones = $derived(zonesOf(step));
  const here = $derived(bench.stage.picked.filter((zone) => zones.includes(zone)));
  const more = $derived(zones.length ? bench.stage.picked.filter((zone) => !zones.includes(zone)) : []);
  const twins = $derived(
    (bench.doc.plan?.steps ?? [])
      .map((each, index) => ({ each, number: index + 1 }))
      .filter(({ each }) => each.id !== step.id && each.kind === step.kind && sameMix(each, step)),
  );

  async function act(edit: Edit[]) {
    bench.stage.picked = [];
    await bench.doc.edit(edit);
  }
</script>

{#if zones.length}
  <div class="flex flex-wrap gap-1">
    {#each zones as zone (zone)}
      <button
        class="btn h-control-xs px-1.5 text-xs {here.includes(zone)
          ? 'border-accent bg-accent-soft font-semibold'
          : ''}"
        aria-pressed={here.includes(zone)}
        onclick={() => bench.stage.toggle(zone)}>{words.zone(zone)}</button
      >
    {/each}
  </div>
{:else}
  <p>The whole face</p>
{/if}
<div class="no-print mt-1 flex flex-wrap gap-1">
  {#if here.length && here.length < zones.length}
    <button
      class="btn h-control-s"
      disabled={bench.doc.busy}
      onclick={() => act([{ edit: 'split', step: step.id, zones: here }])}>Split into a step</button
    >
    <button
      class="btn h-control-s"
      disabled={bench.doc.busy}
      onclick={() =>
        act([{ edit: 'zones', step: step.id, zones: zones.filter((zone) => !here.includes(zone)) }])}
      >Leave these out</button
    >
  {/if}
  {#if more.length}
    <button
      class="btn h-auto min-h-control-s whitespace-normal"
      disabled={bench.doc.busy}
      onclick={() => act([{ edit: 'zones', step: step.id, zones: [...zones, ...more] }])}
      >Lay it on {more.map((zone) => words.zone(zone).toLowerCase()).join(' · ')}, too</button
    >
  {/if}
  {#each twins as { each, number } (each.id)}
    <button
      class="btn h-control-s"
      disabled={bench.doc.busy}
      onclick={() => act([{ edit: 'merge', step: step.id, other: each.id }])}
      >Combine with step {number}</button
    >
  {/each}
</div>
