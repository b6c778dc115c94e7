<script lang="ts">
  import type { Intent, Vocabulary } from '../api/client';
  import CheckList from './CheckList.svelte';
  import Choice from './Choice.svelte';
  import NumberField from './NumberField.svelte';
  import WishesByRegion from './WishesByRegion.svelte';
  import type { Pictured } from './WishesPicture.svelte';
  import { words } from './vocabulary.svelte';

  /** Everything that is wanted of a base, and the ways of working that are disputed: the same form wherever it is asked. */
  interface Props {
    intent: Intent;
    onset: (change: Partial<Intent>) => void;
    sitter: Pictured;
  }

  type Option = Vocabulary['options'][number];

  let { intent, onset, sitter }: Props = $props();
  const FEATURES = ['brows', 'eyes', 'lashes', 'lips'] as const;
  /** Ways of working that stand on the intent itself, not among its options. */
  const ON_THE_INTENT = ['order', 'blend'];
  const climate = $derived(intent.climate ?? { temperature_c: 22, humidity_percent: 50 });
  const picks = $derived([
    { name: 'cover', words: 'Cover', usual: 'medium', terms: words.all?.covers ?? [] },
    { name: 'finish', words: 'Finish', usual: 'satin', terms: words.all?.finishes ?? [] },
    { name: 'setting', words: 'Setting', usual: 'spot', terms: words.all?.settings ?? [] },
    { name: 'viewing', words: 'Seen', usual: 'in_person', terms: words.all?.viewings ?? [] },
  ] as const);

  function way(option: Option): string {
    const own = ON_THE_INTENT.includes(option.name)
      ? intent[option.name as keyof Intent]
      : intent.options?.[option.name as never];
    return String(own ?? option.ways[0]?.value);
  }

  function choose(option: Option, chosen: string) {
    const value = chosen === 'true' ? true : chosen === 'false' ? false : chosen;
    if (ON_THE_INTENT.includes(option.name)) onset({ [option.name]: value });
    else onset({ options: { ...intent.options, [option.name]: value } as Intent['options'] });
  }
</script>

<div class="flex flex-wrap items-end gap-3">
  <div>
    <p class="label">School</p>
    <Choice
      label="School wanted"
      value={intent.school ?? 'recommend'}
      options={[
        { id: 'recommend', words: 'Recommend one' },
        ...(words.all?.schools ?? []).map((school) => ({ id: school.id as string, words: school.words })),
      ]}
      onchoose={(id) => onset({ school: id === 'recommend' ? null : (id as Intent['school']) })}
    />
  </div>
  {#each picks as pick (pick.name)}
    <div>
      <p class="label">{pick.words}</p>
      <Choice
        label={pick.words}
        value={String(intent[pick.name] ?? pick.usual)}
        options={pick.terms.map((term) => ({ id: term.id, words: term.words }))}
        onchoose={(value) => onset({ [pick.name]: value })}
      />
    </div>
  {/each}
  <NumberField
    label="Hours"
    value={intent.wear_hours ?? 8}
    of="wear_hours"
    onset={(wear_hours) => onset({ wear_hours })}
  />
  <NumberField
    label="Air, °C"
    value={climate.temperature_c ?? 22}
    of="temperature_c"
    onset={(temperature_c) => onset({ climate: { ...climate, temperature_c } })}
  />
  <NumberField
    label="Humidity, %"
    value={climate.humidity_percent ?? 50}
    of="humidity_percent"
    onset={(humidity_percent) => onset({ climate: { ...climate, humidity_percent } })}
  />
</div>
<!-- A base is always seen in some light. -->
<CheckList
  label="Lights it is seen in"
  options={words.all?.lights ?? []}
  chosen={intent.lights ?? []}
  onset={(lights) => lights.length && onset({ lights })}
/>
<CheckList
  label="Features done in the same sitting"
  options={FEATURES.map((id) => ({ id, words: words.step(id) }))}
  chosen={intent.features ?? []}
  onset={(features) => onset({ features })}
/>
<WishesByRegion {intent} {onset} {sitter} />
<h3 class="heading mt-4 mb-1">Ways of working</h3>
<ul class="grid gap-x-6 gap-y-2 md:grid-cols-2">
  {#each words.all?.options ?? [] as option (option.name)}
    {@const chosen = option.ways.find((each) => each.value === way(option))}
    <li>
      <div class="flex items-center justify-between gap-2">
        <span>{option.words}</span>
        <Choice
          label={option.words}
          value={way(option)}
          options={option.ways.map((each) => ({ id: each.value, words: each.words }))}
          onchoose={(to) => choose(option, to)}
        />
      </div>
      <p class="label">{chosen?.why ?? ''}</p>
    </li>
  {/each}
</ul>
