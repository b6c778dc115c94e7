<script lang="ts">
  import type { Kind, Place } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import Modal from '../../parts/Modal.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import { LateState } from './questions.svelte';
  import SeverityMark from './SeverityMark.svelte';
  import type { WorkbenchState } from './workbench.svelte';

  let { bench, open = $bindable() }: { bench: WorkbenchState; open: boolean } = $props();
  const late = $derived(new LateState(bench.id));
  const kinds = $derived(
    (words.all?.steps ?? []).map((step) => ({ id: step.id as Kind, words: step.words })),
  );
  const regions = $derived(
    (words.all?.regions ?? []).map((region) => ({
      ...region,
      zones: (words.all?.zones ?? []).filter((zone) => zone.region === region.id),
    })),
  );

  $effect(() => {
    if (open && !late.zones.length) late.zones = [...(bench.step?.zones ?? [])];
  });

  async function take(place: Place) {
    open = false;
    await bench.edit(place.edits);
  }
</script>

<Modal bind:open title="Add a step" wide="56">
  {#snippet about()}
    A step that was forgotten, or wanted besides. The core tries every place where it could still go on these
    zones.
  {/snippet}
  <div class="flex flex-wrap items-end gap-3">
    <Choice
      label="Kind of step"
      value={late.kind}
      options={kinds}
      onchoose={(kind) => {
        late.kind = kind;
        late.places = null;
      }}
    />
    <button class="btn btn-main" disabled={late.busy || !late.zones.length} onclick={() => late.ask()}
      >Where could it go?</button
    >
    {#if late.busy}<span class="label" role="status">Trying each place…</span>{/if}
  </div>
  <div class="mt-3 grid gap-x-4 gap-y-2 sm:grid-cols-2 lg:grid-cols-3">
    {#each regions as region (region.id)}
      <fieldset>
        <legend class="label">{region.words}</legend>
        <div class="flex flex-wrap gap-1">
          {#each region.zones as zone (zone.id)}
            <button
              class="btn h-7 px-1.5 text-xs {late.zones.includes(zone.id)
                ? 'border-accent bg-accent-soft font-semibold'
                : ''}"
              aria-pressed={late.zones.includes(zone.id)}
              onclick={() => late.toggle(zone.id)}>{zone.words}</button
            >
          {/each}
        </div>
      </fieldset>
    {/each}
  </div>
  {#if late.places}
    <h3 class="heading mt-4">Places, the cheapest first</h3>
    <ol aria-label="Places" class="mt-1 flex flex-col gap-1">
      {#each late.places as place (place.before ?? 'end')}
        <li class="flex items-start gap-2 border-t border-line py-1">
          <span class="mt-0.5 w-4"
            >{#if place.worst}<SeverityMark severity={place.worst} />{/if}</span
          >
          <span class="grow"
            >{place.says}{#if place.usual}<b class="label ml-2">the usual place</b>{/if}</span
          >
          <button class="btn" disabled={bench.busy} onclick={() => take(place)}
            >Put it there<span class="sr-only">: {place.says}</span></button
          >
        </li>
      {/each}
    </ol>
  {/if}
</Modal>
