<script lang="ts">
  import { untrack } from 'svelte';
  import type { Zone } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import NumberField from '../../parts/NumberField.svelte';
  import RoomBar from '../../parts/RoomBar.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import ZonePainter from '../../parts/ZonePainter.svelte';
  import { p, route } from '../../router';
  import DayStrip from './DayStrip.svelte';
  import { after } from './hours';
  import { WornState } from './worn.svelte';

  const id = $derived(route.params.id ?? '');
  const worn = $derived(new WornState(id));
  const record = $derived(worn.record);
  let pointed = $state<Zone | null>(null);
  const sign = $derived(words.all?.signs.find((each) => each.id === worn.sign));

  $effect(() => {
    const opened = worn;
    untrack(() => void opened.load());
  });
</script>

<svelte:head><title>{record ? `${record.nickname}, worn` : 'Worn'} · Nabrel</title></svelte:head>

<div class="flex h-full flex-col">
  <RoomBar room="wear">
    <h1 class="font-semibold">{record?.title ?? ''}</h1>
    {#if record}
      <span class="label"
        >put on {new Date(record.worn.from).toLocaleString([], {
          dateStyle: 'medium',
          timeStyle: 'short',
        })}</span
      >
      <a class="btn ml-auto" href={p('/wear')}>All records</a>
      <a class="btn" href="/api/wears/{id}/file" download>Export record</a>
    {/if}
  </RoomBar>
  {#if worn.failed}
    <main class="grid grow place-items-center p-4 text-center">
      <div>
        <p role="alert">{worn.failed}</p>
        <a class="btn mt-2" href={p('/wear')}>To the records</a>
      </div>
    </main>
  {:else if !record}
    <main class="grid grow place-items-center"><p role="status">Opening the record…</p></main>
  {:else}
    <main class="grid min-h-0 grow gap-2 overflow-auto p-2 lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
      <section class="panel flex flex-col gap-2 p-3" aria-label="A look">
        <h2 class="heading">A look</h2>
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
              class="btn h-11 px-3 md:h-9"
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
                class="btn h-11 px-3 md:h-9"
                aria-pressed={worn.grade === place + 1}
                onclick={() => (worn.grade = place + 1)}>{place + 1}: {grade}</button
              >
            {/each}
            <button
              class="btn h-11 px-3 md:h-9"
              aria-pressed={worn.grade === 0}
              onclick={() => (worn.grade = 0)}>Take off</button
            >
          </div>
        {/if}
        <div class="h-[46vh] min-h-72">
          <ZonePainter
            colours={record.hexes as Record<Zone, string>}
            proportions={record.proportions}
            label="{record.nickname}, the finished base: paint what is seen"
            grade={(zone) => worn.shown(zone)}
            told={(zone) => worn.told(zone)}
            {pointed}
            onpoint={(zone) => (pointed = zone)}
            ontouch={(zone) => worn.touch(zone)}
            onlift={() => worn.lift()}
            onpaint={(zone) => worn.paint([zone])}
          />
        </div>
        <p class="label min-h-5" aria-live="polite">{pointed ? worn.told(pointed) : (sign?.looks ?? '')}</p>
        <div role="group" aria-label="Looked at, and nothing more to see">
          <span class="label block">Looked at; where nothing is painted, nothing was to see:</span>
          <div class="mt-1 flex flex-wrap gap-1">
            {#each (words.all?.regions ?? []).filter((each) => worn.zonesOf(each.id).length) as each (each.id)}
              <button
                class="btn h-11 px-3 md:h-9"
                aria-pressed={worn.looked(each.id)}
                onclick={() => worn.look(each.id)}>{each.words}</button
              >
            {/each}
          </div>
        </div>
        <label class="block"
          ><span class="label">In words</span><input
            class="h-9 w-full rounded-sm border border-line bg-well px-2"
            maxlength="600"
            bind:value={worn.note}
          /></label
        >
        <label class="block"
          ><span class="label">Next time</span><input
            class="h-9 w-full rounded-sm border border-line bg-well px-2"
            maxlength="600"
            placeholder="More powder on the nose"
            bind:value={worn.nextTime}
          /></label
        >
        {#if record.looks.some((look) => look.after_min === worn.minutes)}
          <p>This takes the place of the look after {after(worn.minutes)}.</p>
        {/if}
        <button
          class="btn btn-main h-11"
          disabled={!worn.touched || worn.busy}
          onclick={() => void worn.keep()}>Keep this look</button
        >
      </section>
      <div class="flex min-w-0 flex-col gap-2">
        <section class="panel p-3" aria-label="Forecast against seen">
          <h2 class="heading mb-1">Forecast against seen</h2>
          <DayStrip {record} />
        </section>
        <section class="panel p-3" aria-label="Looks">
          <h2 class="heading mb-1">Looks</h2>
          <ul class="flex flex-col gap-2">
            {#each record.looks as look (look.after_min)}
              {@const painted = Object.entries(look.zones ?? {})}
              <li class="flex flex-wrap items-baseline gap-2">
                <b class="tabular-nums">{after(look.after_min)}</b>
                <span class="min-w-0 flex-1"
                  >{painted
                    .map(
                      ([zone, signs]) =>
                        `${words.zone(zone as Zone)}: ${Object.entries(signs)
                          .map(([each, grade]) => `${words.sign(each)} ${grade}`)
                          .join(', ')}`,
                    )
                    .join('; ') || 'Nothing to see.'}
                  {look.note}{#if look.next_time}
                    <i>Next time: {look.next_time}</i>{/if}</span
                >
                <button
                  class="btn h-8 px-2"
                  aria-label="Forget the look after {after(look.after_min)}"
                  onclick={() => void worn.forget(look.after_min)}>Forget</button
                >
              </li>
            {:else}
              <li>No look yet. The second look comes 20 to 30 minutes after the last layer.</li>
            {/each}
          </ul>
        </section>
      </div>
    </main>
  {/if}
</div>
