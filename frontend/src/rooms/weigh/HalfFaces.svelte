<script lang="ts">
  import Choice from '../../parts/Choice.svelte';
  import FaceSlider from '../../parts/face/FaceSlider.svelte';
  import { finished, LETTERS, type WeighState } from './weigh.svelte';

  let { weigh }: { weigh: WeighState } = $props();
  const SIDES = [
    { at: 0, words: "Viewer's left" },
    { at: 1, words: "Viewer's right" },
  ] as const;
  let halves = $state<[number, number]>([0, 1]);
  const one = $derived(weigh.candidates[halves[0]] ?? weigh.candidates[0]);
  const other = $derived(weigh.candidates[halves[1]] ?? weigh.candidates[1]);
</script>

<section class="panel p-2.5" aria-label="Half faces">
  <div class="flex flex-wrap items-center gap-2">
    <h2 class="heading">On one face</h2>
    {#each SIDES as side (side.words)}
      <Choice
        label={side.words}
        value={String(halves[side.at])}
        options={weigh.candidates.map((each, place) => ({
          id: String(place),
          words: `${LETTERS[place]}. ${each.words}`,
        }))}
        onchoose={(place) => (halves = side.at ? [halves[0], Number(place)] : [Number(place), halves[1]])}
      />
    {/each}
  </div>
  {#if one && other}
    <div class="mx-auto flex h-[28rem] max-w-2xl flex-col">
      <FaceSlider
        left={{ ...finished(one.plan), words: one.words }}
        right={{ ...finished(other.plan), proportions: one.plan.proportions, words: other.words }}
      />
    </div>
  {/if}
</section>
