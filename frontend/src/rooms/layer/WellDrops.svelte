<script lang="ts">
  import Minus from '@lucide/svelte/icons/minus';
  import Plus from '@lucide/svelte/icons/plus';
  import Choice from '../../parts/Choice.svelte';
  import Swatch from '../../parts/Swatch.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import type { WellState } from './questions.svelte';

  /** The drops in the well, by hand, and for how many faces. */
  let { well }: { well: WellState } = $props();
  const recipes = $derived(well.recipes);
  const result = $derived(well.result);
  const inWell = $derived(Object.entries(well.drops));
  const outside = $derived(
    (recipes?.products ?? []).filter(
      (product) => !(product.id in well.drops) && product.id !== well.replaces,
    ),
  );
</script>

<ul aria-label="In the well" class="flex flex-col gap-1.5">
  {#each inWell as [id, drops], index (id)}
    <li class="flex items-center gap-2">
      <Swatch hex={recipes?.swatches[id] ?? 'transparent'} size={20} />
      <span class="grow">{well.name(id)}</span>
      <button class="btn px-2" aria-label="One drop less of {well.name(id)}" onclick={() => well.drop(id, -1)}
        ><Minus size={14} aria-hidden="true" /></button
      >
      <b class="w-6 text-center">{drops}</b>
      <button class="btn px-2" aria-label="One drop more of {well.name(id)}" onclick={() => well.drop(id, 1)}
        ><Plus size={14} aria-hidden="true" /></button
      >
      <span class="label w-20 text-right">{result?.batch_ml[index]?.toFixed(2) ?? ''} ml</span>
    </li>
  {:else}
    <li class="label">The well is empty.</li>
  {/each}
</ul>
<label class="mt-2 flex items-center gap-2">
  <span class="label">Amounts for</span>
  <input
    type="number"
    class="field w-16 py-1 h-auto"
    min={words.limit('faces').low}
    max={words.limit('faces').high}
    value={well.faces}
    aria-label="Faces to mix for"
    onchange={(event) => well.portions(event.currentTarget.valueAsNumber)}
  />
  <span class="label">{well.faces === 1 ? 'face' : 'faces'}</span>
</label>
{#if outside.length}
  <div class="mt-2">
    <Choice
      label="Add a drop of"
      value="add"
      options={[
        { id: 'add', words: 'Add a drop of…' },
        ...outside.map((product) => ({ id: product.id, words: product.name })),
      ]}
      onchoose={(id) => well.drop(id, 1)}
    />
  </div>
{/if}
