<script lang="ts">
  import Camera from '@lucide/svelte/icons/camera';
  import Eye from '@lucide/svelte/icons/eye';
  import Download from '@lucide/svelte/icons/download';
  import Pipette from '@lucide/svelte/icons/pipette';
  import Upload from '@lucide/svelte/icons/upload';
  import { api, ask, type Lab, type SkinPlace, type Probe, type Zone } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import Modal from '../../parts/Modal.svelte';
  import Swatch from '../../parts/Swatch.svelte';
  import { tried } from '../../parts/tried';
  import { sent } from '../../parts/sending';
  import { words } from '../../parts/vocabulary.svelte';
  import CourseChart from './CourseChart.svelte';
  import JudgeDialog from './JudgeDialog.svelte';
  import PhotoDialog from './PhotoDialog.svelte';
  import ReaderDialog from '../../parts/ReaderDialog.svelte';
  import type { ReadState } from './read.svelte';
  import Field from '../../parts/Field.svelte';

  let { read }: { read: ReadState } = $props();
  const face = $derived(read.face!);
  let place = $state<SkinPlace>('face');
  let text = $state('');
  let readerOpen = $state(false);
  let judgeOpen = $state(false);
  let photoOpen = $state(false);
  let picker = $state<HTMLInputElement>();
  let probed = $state.raw<{ zone: Zone; what: 'oil' | 'moisture'; found: Probe } | null>(null);
  type Row = { line: number; name: string; status: string; says: string; hex: string | null };
  let coming = $state.raw<{ file: File; rows: Row[] } | null>(null);
  const places = $derived([
    { id: 'face' as SkinPlace, words: 'Face' },
    { id: 'neck' as SkinPlace, words: 'Neck' },
    { id: 'chest' as SkinPlace, words: 'Chest' },
    ...(words.all?.zones ?? [])
      .filter((zone) => zone.id !== 'neck')
      .map((zone) => ({ id: zone.id as SkinPlace, words: zone.words })),
  ]);
  const named = $derived(places.find((each) => each.id === place)?.words ?? place);
  const zone = $derived(place === 'face' || place === 'chest' ? null : (place as Zone));
  const good = $derived(coming?.rows.filter((row) => row.status === 'good').length ?? 0);

  async function save() {
    const of = place;
    const found = await read.readings.understand(text);
    if (!found) return;
    await read.readings.saveColour(of, found.lab as Lab, 'typed');
    text = '';
  }

  async function probe(what: 'oil' | 'moisture') {
    if (!zone) return;
    const found = await tried(
      ask(api.POST('/api/sitters/{id}/probe', { params: { path: { id: read.id } }, body: { zone, what } })),
    );
    if (!found) return;
    probed = { zone, what, found };
  }

  async function picked(event: Event & { currentTarget: HTMLInputElement }) {
    const file = event.currentTarget.files?.[0];
    event.currentTarget.value = '';
    if (!file) return;
    const params = { path: { id: read.id } };
    const found = await tried(
      sent(file, 'text/csv').then((body) =>
        ask(api.POST('/api/sitters/{id}/readings/preview', { params, ...body })),
      ),
    );
    if (!found) return;
    coming = { file, rows: found.rows };
  }

  async function take() {
    if (coming) await read.readings.take(coming.file);
    coming = null;
  }
</script>

<section aria-label="Colour in words" class="panel p-3">
  <h2 class="heading">What the colours say</h2>
  <ul>
    {#each face.tone_says as line (line)}<li>{line}</li>{/each}
  </ul>
  <ul class="mt-2 flex flex-wrap gap-x-4 gap-y-1">
    {#each face.colours as each (each.place)}
      <li class="flex items-center gap-2">
        <Swatch hex={each.hex} size={22} /><span
          >{each.words}<span class="label block"
            >{each.lab.map((part) => part.toFixed(1)).join(' ')}{each.day ? `, ${each.day}` : ''}</span
          >{#if each.sure}<span class="label block">{each.sure}</span>{/if}</span
        >
      </li>
    {/each}
  </ul>
</section>

<section aria-label="Take a reading" class="panel p-3">
  <h2 class="heading">Take a reading</h2>
  <div class="mt-1 flex flex-wrap items-end gap-2">
    <div>
      <p class="label">Place</p>
      <Choice label="Place" value={place} options={places} onchoose={(next) => (place = next)} />
    </div>
    <form
      class="flex items-end gap-2"
      onsubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <Field
        label="L* a* b*, or hex"
        class="w-40"
        maxlength={80}
        placeholder="62 11 17 or #c69a7b"
        bind:value={text}
      />
      <button class="btn" disabled={!text.trim()}>Save this colour</button>
    </form>
    <button class="btn" onclick={() => (judgeOpen = true)}
      ><Eye size={15} aria-hidden="true" />By eye or stripe…</button
    >
    <button class="btn" onclick={() => (readerOpen = true)}
      ><Pipette size={15} aria-hidden="true" />Colour reader…</button
    >
    <button class="btn" onclick={() => (photoOpen = true)}
      ><Camera size={15} aria-hidden="true" />Read from a photo…</button
    >
    <button class="btn" disabled={!zone} onclick={() => probe('oil')}>Probe for oil</button>
    <button class="btn" disabled={!zone} onclick={() => probe('moisture')}>Probe for moisture</button>
  </div>
  {#if !zone}<p class="label mt-1">The probe reads a zone: choose one.</p>{/if}
  {#if probed}
    <div class="mt-2 border-l-4 border-line pl-2" aria-live="polite">
      <b>{words.zone(probed.zone)}.</b>
      {probed.found.says}
      <span class="block"
        >It would be read as {probed.found.severity
          ? `${probed.found.words} ${probed.found.severity}`
          : `no ${probed.found.words}`}.</span
      >
      <button
        class="btn mt-1 h-control-s"
        onclick={async () => {
          if (probed) await read.readings.pinProbe(probed.zone, probed.what, probed.found.value);
          probed = null;
        }}>Save reading</button
      >
    </div>
  {/if}
  <p class="label mt-2">
    The reader and the probe are simulated stand-ins. A planning aid, not a measurement of health.
  </p>
</section>

<section aria-label="Readings over time" class="panel p-3">
  <div class="flex flex-wrap items-center justify-between gap-2">
    <h2 class="heading">Readings over time</h2>
    <span class="flex gap-1">
      <button class="btn h-control-s" onclick={() => picker?.click()}
        ><Upload size={14} aria-hidden="true" />CSV or CGATS in</button
      >
      <a class="btn h-control-s" href="/api/sitters/{read.id}/readings/table" download
        ><Download size={14} aria-hidden="true" />CSV</a
      >
      <a class="btn h-control-s" href="/api/sitters/{read.id}/readings/table?form=cgats" download
        ><Download size={14} aria-hidden="true" />CGATS</a
      >
    </span>
    <input
      bind:this={picker}
      type="file"
      accept=".csv,.txt,.cgats,text/csv,text/plain"
      class="hidden"
      aria-label="Readings file"
      onchange={picked}
    />
  </div>
  {#each face.courses as course (course.place + course.what)}
    <details class="border-t border-line py-2 first-of-type:border-0" open={course.readings.length > 1}>
      <summary class="cursor-pointer"><b>{course.words}, {course.what}</b>: {course.says}</summary>
      <CourseChart {course} />
      <ul>
        {#each course.readings as each (each.id)}
          <li class="flex items-center gap-2 py-0.5">
            {#if each.hex}<Swatch hex={each.hex} />{/if}
            <span class="grow">{each.reading.day}: {each.says}</span>
            <span class="label">{each.reading.source}</span>
            <button
              class="btn h-control-xs px-1.5 text-xs"
              aria-label="Take out the reading of {each.reading.day}, {course.words}, {course.what}"
              onclick={() => read.readings.remove(each.id)}>Take out</button
            >
          </li>
        {/each}
      </ul>
    </details>
  {:else}
    <p class="label mt-1">
      Nothing read yet. Skin changes with sun and season: each reading is dated, and the newest counts.
    </p>
  {/each}
</section>

<PhotoDialog {read} {place} {places} bind:open={photoOpen} />
<JudgeDialog {read} {place} words={named} bind:open={judgeOpen} />
<ReaderDialog
  sitter={read.id}
  {place}
  words={named}
  bind:open={readerOpen}
  onsave={(lab, takes, spread) => read.readings.saveColour(place, lab, 'reader', takes, spread)}
/>

<Modal
  bind:open={
    () => coming !== null,
    (shown) => {
      if (!shown) coming = null;
    }
  }
  title="Before it is saved"
>
  {#snippet about()}{good} of {coming?.rows.length} rows can be kept.{/snippet}
  {#snippet actions()}
    <button class="btn btn-main" disabled={!good} onclick={take}
      >Save {good} {good === 1 ? 'reading' : 'readings'}</button
    >
  {/snippet}
  <ul>
    {#each coming?.rows ?? [] as row (row.line)}
      <li class="flex items-center gap-2 border-t border-line py-1">
        <span class="label w-12">line {row.line}</span>
        {#if row.hex}<Swatch hex={row.hex} />{/if}
        <span
          ><b>{row.status === 'good' ? row.name : `▲ ${row.name}`}</b>
          {row.says}</span
        >
      </li>
    {/each}
  </ul>
</Modal>
