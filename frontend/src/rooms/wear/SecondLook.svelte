<script lang="ts">
  import type { Schemas } from '../../api/client';
  import Help from '../../parts/Help.svelte';
  import Swatch from '../../parts/Swatch.svelte';
  import { after } from './hours';

  /** Colours that were read, each beside the colour forecast for that minute. */
  let { colours }: { colours: readonly Schemas['ColourSeenWire'][] } = $props();
</script>

<section class="panel p-3" aria-label="Colour forecast against read">
  <h2 class="heading mb-1">Colour: forecast against read</h2>
  <table class="w-full text-left">
    <thead class="label"
      ><tr
        ><th class="font-normal" scope="col">After</th><th class="font-normal" scope="col">Where</th><th
          class="font-normal"
          scope="col">Forecast</th
        ><th class="font-normal" scope="col">Read</th><th class="text-right font-normal" scope="col"
          >ΔE00 <Help of="delta_e" /></th
        ><th class="pl-3 font-normal" scope="col"></th></tr
      ></thead
    >
    <tbody>
      {#each colours as each (`${each.after_min} ${each.zone}`)}
        <tr class="border-t border-line">
          <td class="py-1 whitespace-nowrap">{after(each.after_min)}</td>
          <td>{each.words}</td>
          <td><Swatch hex={each.forecast_hex} size={22} /></td>
          <td><Swatch hex={each.read_hex} size={22} /></td>
          <td class="text-right tabular-nums">{each.de.toFixed(1)}</td>
          <td class="pl-3">{each.says}</td>
        </tr>
      {/each}
    </tbody>
  </table>
  <p class="label mt-1">
    Forecast with each product's own shift within half an hour. What powder loses by taking up oil is not in
    it.
  </p>
</section>
