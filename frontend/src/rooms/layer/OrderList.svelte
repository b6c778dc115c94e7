<script lang="ts">
  import { tick } from 'svelte';
  import Swatch from '../../parts/Swatch.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import SeverityMark from './SeverityMark.svelte';
  import type { WorkbenchState } from './workbench.svelte';

  let { bench }: { bench: WorkbenchState } = $props();
  let list = $state<HTMLOListElement>();

  const plan = $derived(bench.plan);

  $effect(() => {
    const at = bench.at;
    void tick().then(() => list?.querySelector(`[data-index="${at}"]`)?.scrollIntoView({ block: 'nearest' }));
  });

  function amount(index: number): string {
    const step = plan?.steps[index];
    if (step?.film_um != null) return `${step.film_um} µm`;
    if (step?.powder_mg_cm2 != null) return `${step.powder_mg_cm2} mg/cm²`;
    return '';
  }

  function wait(seconds: number): string {
    return seconds >= 120 ? `${Math.round(seconds / 60)} min` : `${Math.round(seconds)} s`;
  }
</script>

{#if plan}
  <ol bind:this={list} class="min-h-0 overflow-auto" aria-label="Order of steps">
    <li>
      <button
        data-index={-1}
        class="flex w-full items-center gap-2 rounded-sm border-l-4 px-2 py-1 text-left {bench.at === -1
          ? 'border-accent bg-well'
          : 'border-transparent hover:bg-well'}"
        aria-current={bench.at === -1 ? 'step' : undefined}
        onclick={() => bench.choose(-1)}
      >
        <span class="label w-5 text-right">0</span>Bare skin
      </button>
    </li>
    {#each plan.steps as step, index (step.id)}
      {@const found = bench.findingsOf(step.id)}
      <li>
        <button
          data-index={index}
          class="grid w-full grid-cols-[1.25rem_minmax(0,1fr)_auto] items-baseline gap-x-2 rounded-sm border-l-4 px-2 py-1 text-left {bench.at ===
          index
            ? 'border-accent bg-well'
            : 'border-transparent hover:bg-well'}"
          aria-current={bench.at === index ? 'step' : undefined}
          onclick={() => bench.choose(index)}
        >
          <span class="label text-right">{index + 1}</span>
          <span class="min-w-0">
            <span class="flex items-center gap-1.5">
              {#if step.product && plan.swatches[step.product]}<Swatch
                  hex={plan.swatches[step.product] ?? ''}
                  size={13}
                />{/if}
              <span class="truncate font-semibold">{words.step(step.kind)}</span>
              {#each found as finding (finding.rule + finding.says)}<SeverityMark
                  severity={finding.severity}
                />{/each}
            </span>
            {#if step.product}<span class="label block truncate"
                >{plan.products[step.product]?.name ?? step.product}</span
              >{/if}
          </span>
          <span class="label text-right whitespace-nowrap">
            {amount(index)}
            {#if step.wait_s}<span class="block">wait {wait(step.wait_s)}</span>{/if}
          </span>
        </button>
      </li>
    {/each}
  </ol>
{/if}
