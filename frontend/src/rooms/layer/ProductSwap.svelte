<script lang="ts">
  import { Popover } from 'bits-ui';
  import ArrowLeftRight from '@lucide/svelte/icons/arrow-left-right';
  import type { Candidate, Step } from '../../api/client';
  import Swatch from '../../parts/Swatch.svelte';
  import type { WorkbenchState } from './workbench.svelte';

  let { bench, step }: { bench: WorkbenchState; step: Step } = $props();
  let open = $state(false);

  const list = $derived(bench.candidates?.step === step.id ? bench.candidates.list : null);
  const mix = $derived(bench.candidates?.step === step.id ? bench.candidates.mix : null);
  const shaded = $derived(list?.some((each) => each.shade_shows != null) ?? false);

  function shown(next: boolean) {
    if (next) void bench.findCandidates(step.id);
  }

  function take(candidate: Candidate) {
    open = false;
    if (!candidate.current) void bench.edit(candidate.edits);
  }
</script>

<Popover.Root bind:open onOpenChange={shown}>
  <Popover.Trigger class="btn" aria-label="Swap the product"
    ><ArrowLeftRight size={14} aria-hidden="true" />Swap</Popover.Trigger
  >
  <Popover.Portal>
    <Popover.Content
      class="panel z-40 max-h-(--bits-popover-content-available-height) w-[40rem] max-w-[94vw] overflow-auto p-2 shadow-lg"
      align="end"
      collisionPadding={8}
      sideOffset={4}
    >
      {#if list === null}
        <p class="label p-3" role="status">Trying each one on this face…</p>
      {:else}
        <table class="w-full text-sm">
          <caption class="label pb-1 text-left"
            >Each tried on this face, in every step that uses the product now; nearest look first</caption
          >
          <thead>
            <tr class="label text-left">
              <th class="p-1 font-normal">Product</th>
              <th class="p-1 text-right font-normal">Cover</th>
              <th class="p-1 font-normal">Then shows</th>
              <th class="p-1 text-right font-normal">ΔE00</th>
              {#if shaded}<th class="p-1 text-right font-normal">Shade shows</th>{/if}
              <th class="p-1 text-right font-normal">Look changes</th>
              <th class="p-1 text-right font-normal">Load</th>
              <th class="p-1 font-normal">Base, cost</th>
            </tr>
          </thead>
          <tbody>
            {#each list as each (each.product.id)}
              <tr class="border-t border-line {each.current ? 'bg-accent-soft' : 'hover:bg-well'}">
                <td class="p-1">
                  <button class="flex w-full items-center gap-1.5 text-left" onclick={() => take(each)}>
                    <Swatch hex={each.swatch} />{each.product.name}{#if each.current}<span class="label"
                        >in use</span
                      >{/if}
                  </button>
                </td>
                <td class="p-1 text-right"
                  >{each.product.cover == null ? '' : `${Math.round(each.product.cover * 100)} %`}</td
                >
                <td class="p-1"
                  ><Swatch hex={each.result_hex} size={20} title="Finished colour {each.result_hex}" /></td
                >
                <td class="p-1 text-right">{each.result_de.toFixed(1)}</td>
                {#if shaded}<td class="p-1 text-right">{each.shade_shows?.toFixed(1)} L*</td>{/if}
                <td class="p-1 text-right">{each.current ? '' : `ΔE ${each.look_de.toFixed(1)}`}</td>
                <td class="p-1 text-right">{Math.round(each.worst_cake * 100)} %</td>
                <td class="label p-1"
                  >{each.beads ? '▲ beads' : ''}{each.cost_change
                    ? ` ${each.cost_change > 0 ? '+' : '−'}${Math.abs(each.cost_change).toFixed(2)}`
                    : ''}</td
                >
              </tr>
            {/each}
          </tbody>
        </table>
        {#if mix}
          <p class="mt-2 border-t border-line pt-2">
            Or mix it: {mix.parts.map((part) => `${part.drops} × ${part.name}`).join(' + ')}, ΔE00 {mix.de.toFixed(
              1,
            )} from it ({mix.misses}), cover {Math.round(mix.cover * 100)} %.
            {#each mix.warnings as warning (warning)}<b class="block">▲ {warning}</b>{/each}
          </p>
        {/if}
      {/if}
    </Popover.Content>
  </Popover.Portal>
</Popover.Root>
