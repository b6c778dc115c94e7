<script lang="ts">
  import { zonesOf } from '../../plan/steps';
  import { Popover } from 'bits-ui';
  import ArrowLeftRight from '@lucide/svelte/icons/arrow-left-right';
  import type { Candidate, Step, Zone } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import SwapTable from './SwapTable.svelte';
  import type { WorkbenchState } from './workbench.svelte';

  let { bench, step }: { bench: WorkbenchState; step: Step } = $props();
  let open = $state(false);

  const list = $derived(bench.swap.now?.step === step.id ? bench.swap.now.list : null);
  const mix = $derived(bench.swap.now?.step === step.id ? bench.swap.now.mix : null);
  const zone = $derived(list?.[0]?.zone);
  let all = $state(false);
  /** What a practitioner would consider; the rest is folded away until it is asked for. */
  const rows = $derived((list ?? []).filter((each) => all || each.current || each.considered));
  const folded = $derived((list?.length ?? 0) - rows.length);
  const current = $derived(list?.find((each) => each.current));
  const zones = $derived(zonesOf(step).map((id) => ({ id, words: words.zone(id) })));

  function shown(next: boolean) {
    if (!next) return;
    bench.swap.now = null;
    all = false;
    const picked = bench.stage.picked.find((each) => zonesOf(step).includes(each));
    void bench.swap.find(step.id, picked);
  }

  function look(at: Zone) {
    void bench.swap.find(step.id, at);
  }

  function take(candidate: Candidate) {
    open = false;
    if (!candidate.current) void bench.doc.edit(candidate.edits);
  }
</script>

<Popover.Root bind:open onOpenChange={shown}>
  <Popover.Trigger class="btn" aria-label="Swap the product"
    ><ArrowLeftRight size={14} aria-hidden="true" />Swap</Popover.Trigger
  >
  <Popover.Portal>
    <Popover.Content
      class="panel z-40 max-h-(--bits-popover-content-available-height) w-[46rem] max-w-[94vw] overflow-auto p-2 shadow-raised"
      side="left"
      align="center"
      collisionPadding={8}
      sideOffset={4}
    >
      {#if list === null || !zone}
        <p class="label p-3" role="status">Trying each one on this face…</p>
      {:else}
        <div class="mb-1 flex flex-wrap items-center gap-2">
          <span class="label">Looked at on</span>
          <Choice label="Looked at on" value={zone} options={zones} onchoose={look} />
          <span class="label grow"
            >Each strip: what lies beneath, with this step on, the finished base. Nearest look first; a swap
            changes every step that uses the product now.</span
          >
        </div>
        <SwapTable {zone} {rows} {current} ontake={take} />
        {#if folded}
          <button class="btn mt-2" onclick={() => (all = true)}
            >{folded} more: another depth, or a base that would separate</button
          >
        {/if}
        {#if mix && mix.parts.length > 1}
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
