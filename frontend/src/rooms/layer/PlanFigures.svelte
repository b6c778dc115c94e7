<script lang="ts">
  import Help from '../../parts/Help.svelte';
  import Learnt from '../../parts/Learnt.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import type { WorkbenchState } from './workbench.svelte';

  let { bench }: { bench: WorkbenchState } = $props();
  const totals = $derived(bench.doc.plan?.totals);
</script>

{#if totals}
  <dl class="grid grid-cols-3 gap-x-3 gap-y-1 xl:grid-cols-[3rem_4rem_5rem_6rem_1fr_1fr]">
    <div>
      <dt class="label">Steps</dt>
      <dd class="font-semibold">{totals.steps}</dd>
    </div>
    <div>
      <dt class="label flex items-center gap-1">Time<Help of="time" /></dt>
      <dd class="font-semibold">{Math.round(totals.minutes)} min</dd>
    </div>
    <div>
      <dt class="label flex items-center gap-1">Product<Help of="product" /></dt>
      <dd class="font-semibold">{totals.film_ml.toFixed(2)} ml</dd>
    </div>
    <div>
      <dt class="label flex items-center gap-1">Shade shows<Help of="shade_shows" /></dt>
      <dd class="font-semibold">
        {totals.shade_shows == null ? 'none' : `${totals.shade_shows.toFixed(1)} L*`}
      </dd>
    </div>
    <div>
      <dt class="label">Fullest zone: {words.zone(totals.worst_cake_zone)} <Help of="load" /></dt>
      <dd class="font-semibold">{Math.round(totals.worst_cake * 100)} % of its limit</dd>
    </div>
    <div>
      <dt class="label">First shine: {words.zone(totals.least_shine_zone)} <Help of="shine" /></dt>
      <dd class="font-semibold">
        about {totals.least_shine_hours.toFixed(1)} h <Learnt looks={totals.shine_looks} />
      </dd>
    </div>
  </dl>
{/if}
