<script lang="ts">
  import type { Candidate, Zone } from '../../api/client';
  import Help from '../../parts/Help.svelte';
  import Swatch from '../../parts/Swatch.svelte';
  import { words } from '../../parts/vocabulary.svelte';

  interface Props {
    zone: Zone;
    rows: Candidate[];
    current: Candidate | undefined;
    ontake: (candidate: Candidate) => void;
  }

  /** Products tried in a step, as each would look on one zone. Columns in which nothing differs are left out. */
  let { zone, rows, current, ontake }: Props = $props();
  const shaded = $derived(rows.some((each) => each.shade_shows != null));
  const differs = $derived({
    base: new Set(rows.map((each) => each.agreement)).size > 1,
    cost: rows.some((each) => each.cost_change),
    cover: new Set(rows.map((each) => each.product.cover)).size > 1,
  });

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

<table class="w-full text-sm">
  <caption class="sr-only">Products tried on {words.zone(zone)}</caption>
  <thead>
    <tr class="label text-left">
      <th class="p-1 font-normal">Product</th>
      {#if differs.cover}<th class="p-1 text-right font-normal">Cover</th>{/if}
      <th class="p-1 font-normal">On this zone</th>
      <th class="p-1 text-right font-normal">From aim <Help of="delta_e" /></th>
      {#if shaded}<th class="p-1 text-right font-normal">Shade shows <Help of="shade_shows" /></th>{/if}
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
          <button class="flex w-full items-center gap-1.5 text-left" onclick={() => ontake(each)}>
            <Swatch hex={each.swatch} />{each.product.name}{#if each.current}<span class="label">in use</span
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
        {#if shaded}<td class="p-1 text-right whitespace-nowrap">{each.shade_shows?.toFixed(1)} L*</td>{/if}
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
