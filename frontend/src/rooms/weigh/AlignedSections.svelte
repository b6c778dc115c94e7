<script lang="ts">
  import Learnt from '../../parts/Learnt.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import Section from '../layer/Section.svelte';
  import type { Workbench, Zone } from '../../api/client';
  import { LETTERS } from './weigh.svelte';

  /** The sections one under the other, on one scale: a zone stands in one line through all of them. */
  let {
    candidates,
    pointed = $bindable(),
  }: { candidates: { words: string; plan: Workbench }[]; pointed: Zone | null } = $props();
  const tallest = $derived(
    Math.max(
      10,
      ...candidates.flatMap(({ plan }) =>
        Object.values(plan.forecast).flatMap((zone) => [zone.limit_um, zone.load_um]),
      ),
    ),
  );
</script>

<section class="panel p-2.5" aria-label="Sections">
  <h2 class="heading mb-1">
    Sections, on one scale
    <span class="label font-normal"
      >{pointed ? words.zone(pointed) : 'point at a zone to read it in each'}</span
    >
  </h2>
  {#each candidates as each, place (place)}
    {@const last = place === candidates.length - 1}
    {@const here = pointed ? each.plan.forecast[pointed] : undefined}
    <div class="grid gap-x-2 border-t border-line pt-1 sm:grid-cols-[12rem_minmax(0,1fr)]">
      <div class="min-h-10">
        <h3 class="font-semibold">
          {LETTERS[place]}. <span class="first-letter:uppercase">{each.words}</span>
        </h3>
        {#if here}
          <p class="text-xs">
            {here.load_um.toFixed(1)} µm of the {here.limit_um.toFixed(1)} µm it carries; crease
            {here.crease.toFixed(2)}; shine after {here.shine_hours.toFixed(1)} h
            <Learnt looks={here.learnt_from?.shine_hours} />
          </p>
        {/if}
      </div>
      <Section
        plan={each.plan}
        at={each.plan.steps.length - 1}
        {pointed}
        {tallest}
        plot={104}
        named={last}
        label="Section of {LETTERS[place]}"
        quiet
        onchoose={() => undefined}
        onpoint={(zone) => (pointed = zone)}
      />
    </div>
  {/each}
</section>
