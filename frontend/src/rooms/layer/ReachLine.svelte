<script lang="ts">
  import { zonesOf } from '../../plan/steps';
  import { api, ask, type Reach, type Step } from '../../api/client';
  import { tried } from '../../parts/tried';
  import type { WorkbenchState } from './workbench.svelte';

  let { bench, step }: { bench: WorkbenchState; step: Step } = $props();
  const through = $derived(
    bench.doc.plan?.read_through.filter(
      (row) => row.kind === step.kind && zonesOf(step).includes(row.zone),
    ) ?? [],
  );
  const mean = (list: number[]) => list.reduce((sum, value) => sum + value, 0) / list.length;
  const key = $derived(`${bench.doc.plan?.revision}-${step.id}`);
  let answer = $state.raw<{ key: string; found: Reach } | null>(null);
  const found = $derived(answer?.key === key ? answer.found : null);

  async function seek() {
    const asked = key;
    const reached = await tried(
      ask(
        api.GET('/api/sequences/{id}/steps/{step}/reach', {
          params: { path: { id: bench.id, step: step.id } },
        }),
      ),
    );
    if (!reached) return;
    answer = { key: asked, found: reached };
  }
</script>

{#if through.length}
  <div class="card px-2 py-1.5">
    <p>
      Reads through: <b>{Math.round(mean(through.map((row) => row.percent)))} %</b>,
      {Math.abs(mean(through.map((row) => row.visible_dl))).toFixed(1)} L* of the
      {Math.abs(mean(through.map((row) => row.bare_dl))).toFixed(1)} L* laid.
    </p>
    {#if found}
      <p class="mt-1" role="status">{found.says}</p>
      {#if found.edits.length}
        <button class="btn mt-1" disabled={bench.doc.busy} onclick={() => bench.doc.edit(found.edits)}
          >Take that</button
        >
      {/if}
    {:else if step.unit === 'um' && step.kind !== 'bronze'}
      <button class="btn mt-1" onclick={seek}>How to reach this contrast</button>
    {/if}
  </div>
{/if}
