<script lang="ts">
  import type { Intent } from '../api/client';
  import CheckList from './CheckList.svelte';
  import Choice from './Choice.svelte';
  import WishesPicture, { type Pictured } from './WishesPicture.svelte';
  import { words } from './vocabulary.svelte';

  /** What is asked of a region, of colour, glow and foundation, and what is done or wanted whatever the plan would say. */
  interface Props {
    intent: Intent;
    onset: (change: Partial<Intent>) => void;
    sitter: Pictured;
  }

  let { intent, onset, sitter }: Props = $props();
  const vocabulary = $derived(words.all);
  const effects = $derived(
    (vocabulary?.effects ?? []).map((each) => ({ ...each, id: `${each.region} ${each.effect}` })),
  );
  const asked = $derived(
    effects
      .filter((each) => (intent.effects?.[each.region] ?? []).includes(each.effect))
      .map((each) => each.id),
  );
  const zones = $derived(
    (vocabulary?.zones ?? []).filter((zone) => zone.base).map(({ id, words }) => ({ id, words })),
  );
  const choices = $derived([
    {
      name: 'colour_effect',
      words: 'Colour',
      usual: 'As the face has it',
      from: vocabulary?.colour_effects ?? [],
    },
    {
      name: 'foundation_on',
      words: 'Foundation',
      usual: 'As the school has it',
      from: vocabulary?.foundation_on ?? [],
    },
  ] as const);

  function ask(chosen: string[]) {
    const by: Record<string, string[]> = {};
    for (const each of effects.filter((one) => chosen.includes(one.id)))
      (by[each.region] ??= []).push(each.effect);
    onset({ effects: by as Intent['effects'] });
  }
</script>

<h3 class="heading mt-4 mb-1">Asked of this face</h3>
<div class="flex flex-wrap items-end gap-3">
  {#each choices as choice (choice.name)}
    {@const why = choice.from.find((each) => each.id === intent[choice.name])?.why}
    <div class="max-w-80">
      <p class="label">{choice.words}</p>
      <Choice
        label={choice.words}
        value={intent[choice.name] ?? 'usual'}
        options={[{ id: 'usual', words: choice.usual }, ...choice.from]}
        onchoose={(id) => onset({ [choice.name]: id === 'usual' ? null : id })}
      />
      {#if why}<p class="label">{why}</p>{/if}
    </div>
  {/each}
</div>
<div class="flex flex-wrap gap-4">
  <WishesPicture {intent} {sitter} />
  <div class="min-w-64 grow basis-0">
    <CheckList label="Effects by region" options={effects} chosen={asked} onset={ask} />
    {#if asked.length}
      <ul class="label mt-1" aria-label="What is done for them">
        {#each effects.filter((each) => asked.includes(each.id)) as each (each.id)}
          <li>{each.words}: {each.why}</li>
        {/each}
      </ul>
    {/if}
    <CheckList
      label="Glow on (none ticked: the high planes that are smooth enough)"
      options={vocabulary?.glow_points ?? []}
      chosen={intent.glow_points ?? []}
      onset={(glow_points) => onset({ glow_points })}
    />
  </div>
</div>
<CheckList
  label="Done already when the base begins"
  options={vocabulary?.done_before ?? []}
  chosen={intent.already_done ?? []}
  onset={(already_done) => onset({ already_done })}
/>
<details class="mt-3">
  <summary class="label cursor-pointer">Zones to correct or to bake whatever the plan would say</summary>
  <CheckList
    label="Correct anyway"
    options={zones}
    chosen={intent.correct_anyway ?? []}
    onset={(correct_anyway) => onset({ correct_anyway })}
  />
  <CheckList
    label="Bake"
    options={zones}
    chosen={intent.bake_zones ?? []}
    onset={(bake_zones) => onset({ bake_zones })}
  />
</details>
