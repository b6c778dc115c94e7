<script lang="ts">
  import type { SitterRecord } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import type { ReadState } from './read.svelte';
  import Field from '../../parts/Field.svelte';

  let { read, chosen = $bindable() }: { read: ReadState; chosen: string | null } = $props();
  const face = $derived(read.face!);
  type Measures = NonNullable<SitterRecord['measures']>;
  const measures = $derived(face.record.measures ?? {});
  const stroke = $derived(face.strokes.find((each) => each.id === chosen));
  const moved = $derived(Object.keys(face.record.moved ?? {}).length);
  const LENGTHS = [
    { name: 'face_length_mm', words: 'Face length, mm', of: 'measure_mm' },
    { name: 'cheekbone_width_mm', words: 'Cheekbones, mm', of: 'measure_mm' },
    { name: 'jaw_width_mm', words: 'Jaw, mm', of: 'measure_mm' },
    { name: 'forehead_width_mm', words: 'Forehead width, mm', of: 'measure_mm' },
    { name: 'nose_length_mm', words: 'Nose length, mm', of: 'measure_mm' },
    { name: 'forehead_fingers', words: 'Forehead, finger-widths', of: 'forehead_fingers' },
  ] as const;
  const KINDS = ['shade', 'light', 'glow', 'colour'] as const;

  function set(fields: Partial<Measures>) {
    read.set({ measures: { ...measures, ...fields } });
  }

  function typed(event: Event & { currentTarget: HTMLInputElement }, of: (typeof LENGTHS)[number]) {
    const found = event.currentTarget.valueAsNumber;
    const { low, high } = words.limit(of.of);
    const fits = Number.isNaN(found) || (found >= low && found <= high);
    if (fits) set({ [of.name]: Number.isNaN(found) ? null : found });
    else event.currentTarget.value = String(measures[of.name] ?? '');
  }
</script>

<section aria-label="Measures" class="panel p-3">
  <h2 class="heading">Measures</h2>
  <div class="mt-1 grid grid-cols-2 gap-2 sm:grid-cols-3">
    {#each LENGTHS as each (each.name)}
      <Field
        label={each.words}
        type="number"
        step="any"
        min={words.limit(each.of).low}
        max={words.limit(each.of).high}
        value={measures[each.name] ?? ''}
        onchange={(event) => typed(event, each)}
      />
    {/each}
  </div>
  <div class="mt-2 flex flex-wrap items-center gap-4">
    <div class="flex items-center gap-2">
      <span class="label">Bridge</span>
      <Choice
        label="Bridge of the nose"
        value={measures.nose_leans ?? 'straight'}
        options={[
          { id: 'straight', words: 'Straight' },
          { id: 'left', words: 'Stands out left' },
          { id: 'right', words: 'Stands out right' },
        ]}
        onchoose={(side) => set({ nose_leans: side === 'straight' ? null : side })}
      />
    </div>
    <label class="flex items-center gap-1.5"
      ><input
        type="checkbox"
        class="accent-[var(--accent)]"
        checked={measures.outer_eye_down ?? false}
        onchange={(event) => set({ outer_eye_down: event.currentTarget.checked })}
      />Outer eye turns down</label
    >
  </div>
  <p class="mt-3" aria-live="polite">
    {#if face.shape_reading}
      <b>{face.shape_reading.says}</b>
      <span class="label block"
        >It only suggests: every placement can be moved. How sure it is comes from the error of a tape.</span
      >
    {:else}
      Length, cheekbones and jaw give the shape of the face.
    {/if}
  </p>
</section>

<section aria-label="Placements" class="panel p-3">
  <div class="flex items-center justify-between gap-2">
    <h2 class="heading">Placements</h2>
    {#if moved}
      <button class="btn h-control-s" onclick={() => read.set({ moved: {} })}
        >Put {moved} back where the measures have {moved === 1 ? 'it' : 'them'}</button
      >
    {/if}
  </div>
  {#if stroke}
    <div class="my-2 border-l-4 border-accent bg-well p-2" aria-live="polite">
      <b class="first-letter:uppercase"
        >{words.step(stroke.kind)}: {stroke.zones.map((zone) => words.zone(zone)).join(', ')}</b
      >
      <p>{stroke.why}</p>
      {#if stroke.moved_mm[0] || stroke.moved_mm[1]}
        <p class="label">
          Moved {Math.hypot(stroke.moved_mm[0] ?? 0, stroke.moved_mm[1] ?? 0).toFixed(0)} mm by hand; plans made
          from now on follow it.
        </p>
        <button class="btn mt-1 h-control-s" onclick={() => read.move(stroke.id, [0, 0])}
          >Put it back (Home)</button
        >
      {/if}
    </div>
  {:else}
    <p class="label my-2">Choose a stroke on the map for its reason; drag it, or move it by arrow keys.</p>
  {/if}
  <dl class="grid gap-2 sm:grid-cols-2">
    {#each KINDS as kind (kind)}
      {@const mine = face.strokes.filter((each) => each.kind === kind)}
      {@const off = face.left_off.filter((each) => each.kind === kind)}
      <div>
        <dt class="font-semibold first-letter:uppercase">{words.step(kind)}</dt>
        <dd>
          {#each mine as each (each.id)}
            <button
              class="btn mr-1 mb-1 h-control-xs px-1.5 text-xs {chosen === each.id
                ? 'border-accent bg-accent-soft'
                : ''}"
              aria-pressed={chosen === each.id}
              onclick={() => (chosen = each.id)}
              >{words.zone(each.id.split('.')[1] as never)}{each.moved_mm[0] || each.moved_mm[1]
                ? ' ↗'
                : ''}</button
            >
          {:else}<p class="label">None on this face.</p>{/each}
          {#each off as each (each.zone)}
            <p class="label">Not on {words.zone(each.zone)}: {each.why}</p>
          {/each}
        </dd>
      </div>
    {/each}
  </dl>
</section>
