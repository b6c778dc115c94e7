<script lang="ts">
  import type { ClassShown } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import NumberField from '../../parts/NumberField.svelte';
  import Field from '../../parts/Field.svelte';
  import { p } from '../../router';
  import type { ClassState } from './class.svelte';

  /** What is announced: plan, day, room, and how it is worked. */
  let { own, found }: { own: ClassState; found: ClassShown } = $props();
  const room = $derived(found.room);
  const plans = $derived(own.lists?.plans ?? []);
  const HALVES = [
    { id: 'whole', words: 'The whole face' },
    { id: 'one_half', words: 'One half of the face' },
    { id: 'mistake', words: 'Right way beside a mistake' },
  ] as const;
  const mistakes = $derived((own.lists?.mistakes ?? []).map((each) => ({ id: each.id, words: each.name })));
  const sink = $derived(room.shared?.find((each) => each.item === 'sink')?.count ?? 0);
  const reader = $derived(room.shared?.find((each) => each.item === 'reader')?.count ?? 0);

  function share(item: string, count: number) {
    void own.change((now) => {
      const others = (now.room.shared ?? []).filter((each) => each.item !== item);
      return { shared: count ? [...others, { item, count, use_s: 60 }] : others };
    });
  }
</script>

<section class="panel flex flex-col gap-2 p-2.5" aria-label="Room">
  <h2 class="heading">Room</h2>
  <!-- Open while a change is on its way: whoever tabs on types in the next field at once. -->
  <fieldset class="contents" disabled={found.held}>
    <div class="grid grid-cols-2 gap-x-2 gap-y-1.5">
      <div class="col-span-2">
        <Field
          class="h-control-l"
          required
          label="What it is called"
          value={room.title}
          maxlength={120}
          onchange={(event) => void own.change({ title: event.currentTarget.value })}
        />
      </div>
      <div class="col-span-2">
        <Field
          class="h-control-l"
          label="Course"
          value={room.course ?? ''}
          maxlength={120}
          onchange={(event) => void own.change({ course: event.currentTarget.value })}
        />
      </div>
      <div class="col-span-2 flex flex-col">
        <span class="label"
          >Plan, <a class="underline" href={p('/plans/:id', { params: { id: room.plan } })}>open it</a></span
        >
        <Choice
          label="Plan that is taught"
          value={room.plan}
          options={plans.map((each) => ({ id: each.id, words: each.name }))}
          onchoose={(plan) => void own.change({ plan, cuts: null, pins: {} })}
          wide
        />
      </div>
      <Field
        class="h-control-l"
        required
        label="Day"
        type="date"
        value={room.date}
        onchange={(event) => void own.change({ date: event.currentTarget.value })}
      />
      <Field
        class="h-control-l"
        required
        label="From"
        type="time"
        value={room.start}
        onchange={(event) => void own.change({ start: event.currentTarget.value })}
      />
      <Field
        class="h-control-l"
        label="Room until"
        type="time"
        value={room.until ?? ''}
        onchange={(event) => void own.change({ until: event.currentTarget.value || null })}
      />
      <Field
        class="h-control-l"
        label="Time zone"
        value={room.zone ?? ''}
        placeholder="local time"
        maxlength={60}
        onchange={(event) => void own.change({ zone: event.currentTarget.value || null })}
      />
      <NumberField
        label="Stations"
        value={room.stations}
        of="stations"
        onset={(stations) => void own.change({ stations: Math.round(stations) })}
      />
      <NumberField
        label="Educators"
        value={room.educators ?? 1}
        of="educators"
        onset={(educators) => void own.change({ educators: Math.round(educators) })}
      />
      <NumberField
        label="A check, s"
        value={room.check_s ?? 45}
        of="check_s"
        onset={(check_s) => void own.change({ check_s })}
      />
      <NumberField
        label="Break after, min"
        value={room.break_after_min ?? 60}
        of="break_after_min"
        onset={(break_after_min) => void own.change({ break_after_min })}
      />
      {#each [{ item: 'sink', label: 'Sinks shared', count: sink }, { item: 'reader', label: 'Readers shared', count: reader }] as shared (shared.item)}
        <Field
          label={shared.label}
          class="w-20"
          type="number"
          value={shared.count}
          onchange={(event) =>
            share(shared.item, Math.max(0, Math.round(event.currentTarget.valueAsNumber || 0)))}
        />
      {/each}
      <NumberField
        label="Spare, share"
        value={room.spare ?? 0.15}
        of="spare"
        onset={(spare) => void own.change({ spare })}
      />
      <div class="col-span-2 flex flex-col">
        <span class="label">What is worked</span>
        <Choice
          label="What is worked"
          value={room.half ?? 'whole'}
          options={[...HALVES]}
          onchoose={(half) =>
            void own.change({
              half,
              mistake: half === 'mistake' ? (room.mistake ?? mistakes[0]?.id ?? null) : null,
            })}
          wide
        />
      </div>
      {#if room.half === 'mistake'}
        <div class="col-span-2 flex flex-col">
          <span class="label">Mistake on the other half</span>
          <Choice
            label="Mistake on the other half"
            value={room.mistake ?? ''}
            options={mistakes}
            onchoose={(mistake) => void own.change({ mistake })}
            wide
          />
        </div>
      {/if}
    </div>
  </fieldset>
  {#if found.held}<p class="label">This class was held: it is kept as it was.</p>{/if}
</section>
