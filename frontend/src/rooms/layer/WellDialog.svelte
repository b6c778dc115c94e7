<script lang="ts">
  import { Dialog } from 'bits-ui';
  import Minus from '@lucide/svelte/icons/minus';
  import Plus from '@lucide/svelte/icons/plus';
  import type { Light, Mix } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import Swatch from '../../parts/Swatch.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import { WellState } from './questions.svelte';
  import type { WorkbenchState } from './workbench.svelte';

  let { bench, open = $bindable() }: { bench: WorkbenchState; open: boolean } = $props();
  const well = $derived(new WellState(bench.id));
  const recipes = $derived(well.recipes);
  const result = $derived(well.result);
  const lights = $derived(
    (words.all?.lights ?? []).map((light) => ({ id: light.id as Light, words: light.words })),
  );
  const targets = $derived([
    { id: 'complexion', words: 'The complexion' },
    ...(recipes?.products ?? [])
      .filter((product) => product.role === 'foundation')
      .map((product) => ({ id: product.id, words: `Instead of ${product.name}` })),
  ]);
  const inWell = $derived(Object.entries(well.drops));
  const outside = $derived(
    (recipes?.products ?? []).filter((product) => !(product.id in well.drops) && product.id !== well.instead),
  );

  $effect(() => {
    if (open && !well.recipes) void well.open();
  });

  function name(id: string): string {
    return recipes?.products.find((product) => product.id === id)?.name ?? id;
  }

  function told(recipe: Mix['mix']['best']): string {
    return recipe.parts.map((part) => `${part.drops} × ${part.name}`).join(' + ');
  }
</script>

<Dialog.Root bind:open>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/40" />
    <Dialog.Content
      class="panel fixed top-1/2 left-1/2 z-50 max-h-[92vh] w-[44rem] max-w-[96vw] -translate-x-1/2 -translate-y-1/2 overflow-auto p-4 shadow-lg"
    >
      <div class="flex flex-wrap items-center justify-between gap-3">
        <Dialog.Title class="text-lg font-semibold">Mixing well</Dialog.Title>
        <Choice
          label="Mix towards"
          value={well.instead ?? 'complexion'}
          options={targets}
          onchoose={(id) => well.towards(id === 'complexion' ? null : id)}
        />
        <Choice
          label="Light on the well"
          value={well.light}
          options={lights}
          onchoose={(light) => well.see(light)}
        />
      </div>
      {#if !recipes}
        <p class="label my-6" role="status">Trying every count of drops…</p>
      {:else}
        <Dialog.Description class="my-2">
          Whole drops towards {well.instead ? name(well.instead) : 'the complexion this plan aims at'}. {recipes
            .mix.near_enough
            ? ''
            : 'No recipe of this kit comes near enough; the nearest is shown.'}
        </Dialog.Description>
        <ul class="mb-3 flex flex-col gap-1">
          {#each [{ label: 'Nearest', recipe: recipes.mix.best }, { label: 'Fewest drops', recipe: recipes.mix.smallest }] as row (row.label)}
            <li class="flex flex-wrap items-center gap-2">
              <span class="label w-24">{row.label}</span>
              <Swatch hex={row.recipe.hex} size={20} />
              <span class="grow">{told(row.recipe)}, ΔE00 {row.recipe.usual_de.toFixed(1)} as drops vary</span
              >
              <button class="btn" onclick={() => well.pour(row.recipe)}
                >Pour it<span class="sr-only">: {row.label.toLowerCase()}</span></button
              >
            </li>
          {/each}
        </ul>

        <details class="mb-3">
          <summary class="label cursor-pointer">Single shades that join face and body</summary>
          <ul class="mt-1 flex flex-col gap-1">
            {#each recipes.joining as each (each.product)}
              <li class="flex items-center gap-2">
                <span class="flex"
                  ><Swatch hex={each.face_hex} size={20} title="Fresh" /><Swatch
                    hex={each.settled_hex}
                    size={20}
                    title="After half an hour"
                  /></span
                >
                {each.says}
              </li>
            {/each}
          </ul>
        </details>

        <div class="grid gap-4 sm:grid-cols-[13rem_minmax(0,1fr)]">
          <div>
            <svg
              viewBox="0 0 200 130"
              class="w-full"
              role="img"
              aria-label="The mix on the left, the target on the right"
            >
              <rect width="100" height="130" fill={result?.seen_hex ?? 'var(--well)'} />
              <rect x="100" width="100" height="130" fill={result?.target_hex ?? recipes.mix.target_hex} />
            </svg>
            <p class="label flex justify-between"><span>mix</span><span>target</span></p>
          </div>
          <div>
            <ul aria-label="In the well" class="flex flex-col gap-1.5">
              {#each inWell as [id, drops], index (id)}
                <li class="flex items-center gap-2">
                  <Swatch hex={recipes.swatches[id] ?? 'transparent'} size={20} />
                  <span class="grow">{name(id)}</span>
                  <button
                    class="btn px-2"
                    aria-label="One drop less of {name(id)}"
                    onclick={() => well.drop(id, -1)}><Minus size={14} aria-hidden="true" /></button
                  >
                  <b class="w-6 text-center">{drops}</b>
                  <button
                    class="btn px-2"
                    aria-label="One drop more of {name(id)}"
                    onclick={() => well.drop(id, 1)}><Plus size={14} aria-hidden="true" /></button
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
                class="w-16 rounded-sm border border-line bg-well px-2 py-1"
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
            {#if result}
              <p class="mt-3" aria-live="polite">
                <b>ΔE00 {result.recipe.de.toFixed(1)}</b>, {result.recipe.misses}; about
                {result.recipe.usual_de.toFixed(1)} as drops vary. Cover
                {Math.round(result.recipe.cover * 100)} %, {result.recipe.finish}.
                {#each result.recipe.warnings as warning (warning)}<span class="block font-semibold"
                    >▲ {warning}</span
                  >{/each}
              </p>
            {/if}
          </div>
        </div>
      {/if}
      <Dialog.Close class="btn mt-4">Close</Dialog.Close>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
