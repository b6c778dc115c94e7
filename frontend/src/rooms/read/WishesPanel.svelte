<script lang="ts">
  import X from '@lucide/svelte/icons/x';
  import Choice from '../../parts/Choice.svelte';
  import LightsField from '../../parts/LightsField.svelte';
  import NumberField from '../../parts/NumberField.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import type { ReadState } from './read.svelte';

  let { read }: { read: ReadState } = $props();
  const face = $derived(read.face!);
  const intent = $derived(face.intent);
  const avoid = $derived(face.record.avoid ?? []);
  let added = $state('');
  const FEATURES = ['brows', 'eyes', 'lashes', 'lips'] as const;
  const climate = $derived(intent.climate ?? { temperature_c: 22, humidity_percent: 50 });
  const picks = $derived([
    { name: 'cover', words: 'Cover', value: intent.cover ?? 'medium', terms: words.all?.covers ?? [] },
    { name: 'finish', words: 'Finish', value: intent.finish ?? 'satin', terms: words.all?.finishes ?? [] },
    { name: 'setting', words: 'Setting', value: intent.setting ?? 'spot', terms: words.all?.settings ?? [] },
    {
      name: 'viewing',
      words: 'Seen',
      value: intent.viewing ?? 'in_person',
      terms: words.all?.viewings ?? [],
    },
  ] as const);

  function toggle<T extends string>(list: readonly T[], each: T, on: boolean): T[] {
    return on ? [...list, each] : list.filter((other) => other !== each);
  }

  function avoidAlso() {
    const word = added.trim();
    if (word && !avoid.some((each) => each.toLowerCase() === word.toLowerCase()))
      read.set({ avoid: [...avoid, word] });
    added = '';
  }
</script>

<section aria-label="What is wanted" class="panel p-3">
  <h2 class="heading">What is wanted</h2>
  <div class="mt-1 flex flex-wrap items-end gap-3">
    <div>
      <p class="label">School</p>
      <Choice
        label="School"
        value={intent.school ?? 'recommend'}
        options={[
          { id: 'recommend', words: 'Recommend one' },
          ...(words.all?.schools ?? []).map((school) => ({ id: school.id as string, words: school.words })),
        ]}
        onchoose={(id) => read.wish({ school: id === 'recommend' ? null : (id as never) })}
      />
    </div>
    {#each picks as pick (pick.name)}
      <div>
        <p class="label">{pick.words}</p>
        <Choice
          label={pick.words}
          value={String(pick.value)}
          options={pick.terms.map((term) => ({ id: term.id, words: term.words }))}
          onchoose={(value) => read.wish({ [pick.name]: value })}
        />
      </div>
    {/each}
    <NumberField
      label="Hours"
      value={intent.wear_hours ?? 8}
      of="wear_hours"
      onset={(wear_hours) => read.wish({ wear_hours })}
    />
    <NumberField
      label="Air, °C"
      value={climate.temperature_c ?? 22}
      of="temperature_c"
      onset={(temperature_c) => read.wish({ climate: { ...climate, temperature_c } })}
    />
    <NumberField
      label="Humidity, %"
      value={climate.humidity_percent ?? 50}
      of="humidity_percent"
      onset={(humidity_percent) => read.wish({ climate: { ...climate, humidity_percent } })}
    />
  </div>
  <LightsField value={intent.lights ?? []} onset={(lights) => read.wish({ lights })} />
  <fieldset class="mt-3">
    <legend class="label">Features done in the same sitting</legend>
    <div class="flex flex-wrap gap-3">
      {#each FEATURES as each (each)}
        <label class="flex items-center gap-1.5"
          ><input
            type="checkbox"
            class="accent-[var(--accent)]"
            checked={intent.features?.includes(each) ?? false}
            onchange={(event) =>
              read.wish({ features: toggle(intent.features ?? [], each, event.currentTarget.checked) })}
          />{words.step(each)}</label
        >
      {/each}
    </div>
  </fieldset>
</section>

<section aria-label="Avoid" class="panel p-3">
  <h2 class="heading">Not on this skin</h2>
  <p class="label">
    Ask for allergies. Items that contain one of these, by any of its names, stay out of every plan.
  </p>
  <ul class="my-2 flex flex-wrap gap-1">
    {#each avoid as each (each)}
      <li class="btn cursor-default">
        {each}
        <button
          aria-label="No longer avoid {each}"
          onclick={() => read.set({ avoid: avoid.filter((other) => other !== each) })}
          ><X size={14} aria-hidden="true" /></button
        >
      </li>
    {:else}<li class="label">Nothing named.</li>{/each}
  </ul>
  <form
    class="flex gap-2"
    onsubmit={(event) => {
      event.preventDefault();
      avoidAlso();
    }}
  >
    <input
      class="h-8 w-56 rounded-sm border border-line bg-well px-2"
      aria-label="Substance to avoid"
      placeholder="fragrance, lanolin, nut oils…"
      maxlength="120"
      bind:value={added}
    />
    <button class="btn" disabled={!added.trim()}>Avoid it</button>
  </form>
</section>
