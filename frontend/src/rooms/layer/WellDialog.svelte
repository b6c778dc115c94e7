<script lang="ts">
  import { Dialog } from 'bits-ui';
  import type { Light, Mix } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import Swatch from '../../parts/Swatch.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import { WellState } from './questions.svelte';
  import WellDrops from './WellDrops.svelte';
  import type { WorkbenchState } from './workbench.svelte';
  import Awaited from '../../parts/Awaited.svelte';

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
  $effect(() => {
    if (open && !well.recipes) void well.open();
  });

  function told(recipe: Mix['mix']['best']): string {
    return recipe.parts.map((part) => `${part.drops} × ${part.name}`).join(' + ');
  }
</script>

<Dialog.Root bind:open>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/40" />
    <Dialog.Content
      class="panel fixed top-1/2 left-1/2 z-50 max-h-[92vh] w-[44rem] max-w-[96vw] -translate-x-1/2 -translate-y-1/2 overflow-auto p-4 shadow-raised"
    >
      <div class="flex flex-wrap items-center justify-between gap-3">
        <Dialog.Title class="text-lg font-semibold">Mix a shade</Dialog.Title>
        <Choice
          label="Mix towards"
          value={well.replaces ?? 'complexion'}
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
      {#if well.seeking.failed || !recipes}
        <Awaited
          of={well.seeking}
          waits="Trying every count of drops…"
          says="No mixture could be looked for"
        />
      {:else}
        <Dialog.Description class="my-2">
          Whole drops towards {well.replaces ? well.name(well.replaces) : 'the complexion this plan aims at'}. {recipes
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
            <WellDrops {well} />
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
