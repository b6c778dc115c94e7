<script lang="ts">
  import type { Zone } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import NumberField from '../../parts/NumberField.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import Face from '../../parts/face/Face.svelte';
  import ColourReadings from './ColourReadings.svelte';
  import { after } from './hours';
  import type { WornState } from './worn.svelte';
  import Field from '../../parts/Field.svelte';

  /** The look in hand: when, in which light, what is painted where, and in words. */
  let { worn }: { worn: WornState } = $props();
  const record = $derived(worn.record!);
  let pointed = $state<Zone | null>(null);
  $effect(() => worn.hold());
  const sign = $derived(words.all?.signs.find((each) => each.id === worn.sign));
</script>

<section class="panel flex flex-col gap-2 p-3" aria-label="A look">
  <h2 class="heading">A look</h2>
  {#if record.trial && ['left', 'right'].includes(record.trial.side)}
    <p>
      One look serves both halves: what is on the left goes to the left way, what is on the right to the
      right. The middle of the face belongs to neither.
    </p>
  {/if}
  <div class="flex flex-wrap items-end gap-3">
    <NumberField
      label="Minutes after"
      value={worn.minutes}
      of="after_min"
      onset={(value) => (worn.minutes = value)}
    />
    <Choice
      label="Light"
      value={worn.light}
      options={words.all?.lights ?? []}
      onchoose={(light) => (worn.light = light)}
    />
  </div>
  <div class="flex flex-wrap gap-1" role="group" aria-label="What is seen">
    {#each words.all?.signs ?? [] as each (each.id)}
      <button
        class="btn h-touch px-3 md:h-control-l"
        aria-pressed={worn.sign === each.id}
        title={each.looks}
        onclick={() => (worn.sign = each.id)}>{each.words}</button
      >
    {/each}
  </div>
  {#if sign}
    <div class="flex flex-wrap gap-1" role="group" aria-label="How plainly">
      {#each sign.grades as grade, place (grade)}
        <button
          class="btn h-touch px-3 md:h-control-l"
          aria-pressed={worn.grade === place + 1}
          onclick={() => (worn.grade = place + 1)}>{place + 1}: {grade}</button
        >
      {/each}
      <button
        class="btn h-touch px-3 md:h-control-l"
        aria-pressed={worn.grade === 0}
        onclick={() => (worn.grade = 0)}>Take off</button
      >
    </div>
  {/if}
  <div class="h-[46vh] min-h-72">
    <Face
      label="{record.nickname}, the finished base: paint what is seen"
      drawn={{ colours: record.hexes, proportions: record.proportions }}
      shown={{ grade: (zone) => worn.shown(zone) }}
      pressed={{
        paint: {
          pointed,
          told: (zone) => worn.told(zone),
          onpoint: (zone) => (pointed = zone),
          ontouch: (zone) => worn.touch(zone),
          onlift: () => worn.lift(),
          onpaint: (zone) => worn.paint([zone]),
        },
      }}
    />
  </div>
  <p class="label min-h-5" aria-live="polite">{pointed ? worn.told(pointed) : (sign?.looks ?? '')}</p>
  <div role="group" aria-label="Looked at, and nothing more to see">
    <span class="label block">Looked at; where nothing is painted, nothing was to see:</span>
    <div class="mt-1 flex flex-wrap gap-1">
      {#each (words.all?.regions ?? []).filter((each) => worn.zonesOf(each.id).length) as each (each.id)}
        <button
          class="btn h-touch px-3 md:h-control-l"
          aria-pressed={worn.looked(each.id)}
          onclick={() => worn.look(each.id)}>{each.words}</button
        >
      {/each}
    </div>
  </div>
  <ColourReadings {worn} />
  <Field label="In words" class="h-control-l w-full" maxlength={600} bind:value={worn.note} />
  <Field
    label="Next time"
    class="h-control-l w-full"
    maxlength={600}
    placeholder="More powder on the nose"
    bind:value={worn.nextTime}
  />
  {#if record.looks.some((look) => look.after_min === worn.minutes)}
    <p>This replaces the look after {after(worn.minutes)}.</p>
  {/if}
  <button class="btn btn-main h-touch" disabled={!worn.touched || worn.busy} onclick={() => void worn.save()}
    >Save this look</button
  >
</section>
