<script lang="ts">
  import type { Zone } from '../../api/client';
  import Help from '../../parts/Help.svelte';
  import Learnt from '../../parts/Learnt.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import type { WorkbenchState } from './workbench.svelte';

  let { bench }: { bench: WorkbenchState } = $props();
  const plan = $derived(bench.doc.plan);
  const worn = $derived(
    (words.all?.zones ?? [])
      .map((zone) => ({ zone: zone.id, row: plan?.forecast[zone.id] }))
      .filter((each) => (each.row?.film_um ?? 0) > 0),
  );
  const steepest = $derived(plan?.edges[0]);

  function named(zones: Zone[]): string {
    return zones.length > 5 ? `${zones.length} zones` : zones.map((zone) => words.zone(zone)).join(', ');
  }
</script>

{#if plan}
  <details class="panel p-2.5">
    <summary class="heading cursor-pointer">How it will wear, and touch-ups</summary>
    <p class="label mb-2">
      Estimates from amounts and published rates; crease and flare are indices from 0 to 1, without a unit.
    </p>
    {#if plan.touch_ups.length}
      <ol class="mb-2 flex flex-col gap-0.5" aria-label="Touch-ups">
        {#each plan.touch_ups as each (each.hour + each.does)}
          <li>
            <b>after {each.hour} h</b>: {each.does}
            <Learnt looks={each.looks} />
            <span class="text-quiet" title={each.zones.map((zone) => words.zone(zone)).join(', ')}
              >({named(each.zones)})</span
            >
          </li>
        {/each}
      </ol>
    {:else}
      <p class="mb-2">No touch-up is needed in {plan.intent.wear_hours} h.</p>
    {/if}
    {#if steepest}
      <p class="mb-2">
        Steepest border: {steepest.zones.map((zone) => words.zone(zone).toLowerCase()).join(' to ')}, ΔE00
        {steepest.step_de} over {steepest.width_mm} mm, {steepest.steepness} per mm; up to {steepest.unseen} passes
        unseen.
      </p>
    {/if}
    <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
    <div class="max-h-72 overflow-auto" role="region" aria-label="Forecast by zone" tabindex="0">
      <table class="w-full text-sm">
        <thead>
          <tr class="label text-left">
            <th class="p-1 font-normal">Zone</th>
            <th class="p-1 text-right font-normal">Load, % of limit <Help of="load" /></th>
            <th class="p-1 text-right font-normal">Crease <Help of="crease" /></th>
            <th class="p-1 font-normal">driven by</th>
            <th class="p-1 text-right font-normal">Shine <Help of="shine" /></th>
            <th class="p-1 text-right font-normal">Colour <Help of="colour_hours" /></th>
            <th class="p-1 text-right font-normal">Flare <Help of="flare" /></th>
            <th class="p-1 text-right font-normal">Grey <Help of="ashiness" /></th>
          </tr>
        </thead>
        <tbody>
          {#each worn as { zone, row } (zone)}
            {#if row}
              <tr class="border-t border-line {bench.stage.pointed === zone ? 'bg-accent-soft' : ''}">
                <th scope="row" class="p-1 text-left font-normal">{words.zone(zone)}</th>
                <td class="p-1 text-right"
                  >{Math.round(row.cake * 100)} %{row.cake > 1 ? ' ▲' : ''}
                  <Learnt looks={row.learnt_from?.cake} /></td
                >
                <td class="p-1 text-right"
                  >{row.crease.toFixed(2)} <Learnt looks={row.learnt_from?.crease} /></td
                >
                <td class="label p-1">{row.crease_drivers[0] ?? ''}</td>
                <td class="p-1 text-right"
                  >{row.shine_hours.toFixed(1)} h <Learnt looks={row.learnt_from?.shine_hours} /></td
                >
                <td class="p-1 text-right"
                  >{row.colour_hours == null ? '' : `${row.colour_hours.toFixed(1)} h`}
                  <Learnt looks={row.learnt_from?.colour_hours} /></td
                >
                <td class="p-1 text-right">{row.flare ? row.flare.toFixed(2) : ''}</td>
                <td class="p-1 text-right"
                  >{row.ashiness && row.ashiness >= 0.5 ? row.ashiness.toFixed(1) : ''}</td
                >
              </tr>
            {/if}
          {/each}
        </tbody>
      </table>
    </div>
  </details>
{/if}
