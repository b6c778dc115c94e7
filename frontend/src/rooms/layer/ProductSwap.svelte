<script lang="ts">
  import { zonesOf } from '../../plan/steps';
  import { Popover } from 'bits-ui';
  import ArrowLeftRight from '@lucide/svelte/icons/arrow-left-right';
  import type { Candidate, Step, Zone } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import Help from '../../parts/Help.svelte';
  import Swatch from '../../parts/Swatch.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import type { WorkbenchState } from './workbench.svelte';

  let { bench, step }: { bench: WorkbenchState; step: Step } = $props();
  let open = $state(false);

  const list = $derived(bench.swap.now?.step === step.id ? bench.swap.now.list : null);
  const mix = $derived(bench.swap.now?.step === step.id ? bench.swap.now.mix : null);
  const shaded = $derived(list?.some((each) => each.shade_shows != null) ?? false);
  const zone = $derived(list?.[0]?.zone);
  let all = $state(false);
  /** What a practitioner would consider; the rest is folded away until it is asked for. */
  const rows = $derived((list ?? []).filter((each) => all || each.current || each.considered));
  const folded = $derived((list?.length ?? 0) - rows.length);
  /** Columns in which nothing differs are left out. */
  const differs = $derived({
    base: new Set(rows.map((each) => each.agreement)).size > 1,
    cost: rows.some((each) => each.cost_change),
    cover: new Set(rows.map((each) => each.product.cover)).size > 1,
  });
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

  function moved(each: Candidate): string {
    if (each.current) return '';
    if (each.look_de < 0.5) return 'none seen';
    return `ΔE ${each.look_de.toFixed(1)}`;
  }

  function load(each: Candidate): string {
    const percent = Math.round(each.worst_cake * 100);
    const by = current && !each.current ? percent - Math.round(current.worst_cake * 100) : 0;
    return `${percent} %${by ? ` (${by > 0 ? '+' : '−'}${Math.abs(by)})` : ''}`;
  }
</script>

<Popover.Root bind:open onOpenChange={shown}>
  <Popover.Trigger class="btn" aria-label="Swap the product"
    ><ArrowLeftRight size={14} aria-hidden="true" />Swap</Popover.Trigger
  >
  <Popover.Portal>
    <Popover.Content
      class="panel z-40 max-h-(--bits-popover-content-available-height) w-[46rem] max-w-[94vw] overflow-auto p-2 shadow-lg"
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
        <table class="w-full text-sm">
          <caption class="sr-only">Products tried on {words.zone(zone)}</caption>
          <thead>
            <tr class="label text-left">
              <th class="p-1 font-normal">Product</th>
              {#if differs.cover}<th class="p-1 text-right font-normal">Cover</th>{/if}
              <th class="p-1 font-normal">On this zone</th>
              <th class="p-1 text-right font-normal">From aim <Help of="delta_e" /></th>
              {#if shaded}<th class="p-1 text-right font-normal">Shade shows <Help of="shade_shows" /></th
                >{/if}
              <th class="p-1 text-right font-normal">Look changes</th>
              <th class="p-1 text-right font-normal">Fullest zone <Help of="load" /></th>
              {#if differs.base}<th class="p-1 font-normal">Base</th>{/if}
              {#if differs.cost}<th class="p-1 text-right font-normal">Cost</th>{/if}
            </tr>
          </thead>
          <tbody>
            {#each rows as each (each.product.id)}
              <tr class="border-t border-line {each.current ? 'bg-accent-soft' : 'hover:bg-well'}">
                <td class="p-1">
                  <button class="flex w-full items-center gap-1.5 text-left" onclick={() => take(each)}>
                    <Swatch hex={each.swatch} />{each.product.name}{#if each.current}<span class="label"
                        >in use</span
                      >{/if}
                  </button>
                </td>
                {#if differs.cover}<td class="p-1 text-right whitespace-nowrap"
                    >{each.product.cover == null ? '' : `${Math.round(each.product.cover * 100)} %`}</td
                  >{/if}
                <td class="p-1">
                  <svg
                    width="72"
                    height="22"
                    role="img"
                    aria-label="From {each.beneath_hex} to {each.result_hex}, finished {each.finished_hex}"
                  >
                    <rect width="24" height="22" fill={each.beneath_hex} />
                    <rect x="24" width="24" height="22" fill={each.result_hex} />
                    <rect x="48" width="24" height="22" fill={each.finished_hex} />
                    <rect x="0.5" y="0.5" width="71" height="21" fill="none" stroke="#777" />
                  </svg>
                </td>
                <td class="p-1 text-right whitespace-nowrap">ΔE {each.result_de.toFixed(1)}</td>
                {#if shaded}<td class="p-1 text-right whitespace-nowrap">{each.shade_shows?.toFixed(1)} L*</td
                  >{/if}
                <td class="p-1 text-right whitespace-nowrap">{moved(each)}</td>
                <td class="p-1 text-right whitespace-nowrap">{load(each)}</td>
                {#if differs.base}<td class="label p-1 {each.beads ? 'font-semibold text-ink' : ''}"
                    >{each.beads ? '▲ ' : ''}{each.agreement}</td
                  >{/if}
                {#if differs.cost}<td class="p-1 text-right whitespace-nowrap"
                    >{each.cost_change
                      ? `${each.cost_change > 0 ? '+' : '−'}${Math.abs(each.cost_change).toFixed(2)}`
                      : ''}</td
                  >{/if}
              </tr>
            {/each}
          </tbody>
        </table>
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
