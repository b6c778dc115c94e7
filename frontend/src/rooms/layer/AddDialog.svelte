<script lang="ts">
  import type { Place } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import Modal from '../../parts/Modal.svelte';
  import Swatch from '../../parts/Swatch.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import { AddState } from './questions.svelte';
  import PlacesList from './PlacesList.svelte';
  import type { WorkbenchState } from './workbench.svelte';
  import { whenever } from '../../parts/whenever.svelte';
  import Awaited from '../../parts/Awaited.svelte';

  let { bench, open = $bindable() }: { bench: WorkbenchState; open: boolean } = $props();
  let zonesOpen = $state(false);
  const add = $derived(new AddState(bench.id));
  const chosen = $derived(add.chosen);
  const groups = $derived([...new Set(add.offered?.map((each) => each.group) ?? [])]);
  const regions = $derived(
    (words.all?.regions ?? []).map((region) => ({
      ...region,
      zones: (words.all?.zones ?? []).filter((zone) => zone.region === region.id),
    })),
  );

  whenever(
    () => open && add,
    (opened) => opened && void opened.open(),
  );

  async function take(place: Place) {
    open = false;
    const known = new Set(bench.doc.plan?.steps.map((step) => step.id));
    if (!(await bench.doc.edit(place.edits))) return;
    const added = bench.doc.plan?.steps.find((step) => !known.has(step.id));
    if (added) bench.stage.chooseStep(added.id);
  }
</script>

<Modal bind:open title="Add a step" wide="56">
  {#snippet about()}
    Choose a kind of step. The zones that ask for it on this face are taken first, and every place where it
    could go is tried.
  {/snippet}
  {#if add.palette.failed || !add.offered}
    <Awaited
      of={add.palette}
      waits="Looking at what this face and the kit allow…"
      says="What can be added could not be told"
    />
  {:else}
    <div class="grid gap-x-4 gap-y-2 sm:grid-cols-2 lg:grid-cols-3" role="group" aria-label="Kinds of step">
      {#each groups as group (group)}
        <fieldset>
          <legend class="label">{group}</legend>
          <div class="flex flex-wrap gap-1">
            {#each add.offered.filter((each) => each.group === group) as each (each.kind)}
              <button
                class="btn h-control px-2 {add.kind === each.kind
                  ? 'border-accent bg-accent-soft font-semibold'
                  : ''}"
                aria-pressed={add.kind === each.kind}
                disabled={Boolean(each.missing)}
                title={each.missing || (each.used ? `${each.used} in the plan` : 'Not in the plan yet')}
                onclick={() => add.choose(each.kind)}
              >
                {#if each.products[0]?.hex}<Swatch hex={each.products[0].hex} size={12} />{/if}{words.step(
                  each.kind,
                )}{#if each.used}<span class="label">×{each.used}</span>{/if}
              </button>
            {/each}
          </div>
        </fieldset>
      {/each}
    </div>
    {#if add.offered.some((each) => each.missing)}
      <p class="label mt-2">
        Not offered: {add.offered
          .filter((each) => each.missing)
          .map((each) => `${words.step(each.kind).toLowerCase()} (${each.missing})`)
          .join(', ')}.
      </p>
    {/if}
    {#if chosen}
      <div class="mt-3 border-t border-line pt-2">
        <div class="mb-2 flex flex-wrap items-center gap-3">
          {#if chosen.products.length}
            <Choice
              label="With"
              value={add.product ?? ''}
              options={chosen.products.map((item) => ({ id: item.id, words: item.name }))}
              onchoose={(product) => add.take(product)}
            />
          {/if}
          {#if !add.places}
            <button
              class="btn btn-main"
              disabled={add.busy || (!add.zones.length && chosen.kind !== 'light_check')}
              onclick={() => add.ask()}>Where could it go?</button
            >
          {/if}
          {#if add.busy}<span class="label" role="status">Trying each place…</span>{/if}
        </div>
        <details bind:open={zonesOpen}>
          <summary class="cursor-pointer text-sm"
            >On {add.zones.length === 0
              ? 'no zone yet'
              : add.zones.length === 1
                ? '1 zone'
                : `${add.zones.length} zones`}<span class="label"
              >: {add.zones.map((zone) => words.zone(zone)).join(' · ')}</span
            ></summary
          >
          <div class="mt-1 grid gap-x-4 gap-y-2 sm:grid-cols-2 lg:grid-cols-3">
            {#each regions as region (region.id)}
              <fieldset>
                <legend class="label">{region.words}</legend>
                <div class="flex flex-wrap gap-1">
                  {#each region.zones as zone (zone.id)}
                    <button
                      class="btn h-control-s px-1.5 text-xs {add.zones.includes(zone.id)
                        ? 'border-accent bg-accent-soft font-semibold'
                        : ''}"
                      aria-pressed={add.zones.includes(zone.id)}
                      onclick={() => add.toggle(zone.id)}>{zone.words}</button
                    >
                  {/each}
                </div>
              </fieldset>
            {/each}
          </div>
        </details>
      </div>
    {/if}
    {#if add.places}<PlacesList places={add.places} busy={bench.doc.busy} ontake={take} />{/if}
  {/if}
</Modal>
