<script lang="ts">
  import type { ClassShown } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import FaceSlider from '../../parts/face/FaceSlider.svelte';
  import type { ClassState } from './class.svelte';
  import Awaited from '../../parts/Awaited.svelte';
  import { whenever } from '../../parts/whenever.svelte';

  /** What the plan would be on other skin, what schools dispute in it, and what students get wrong in it. */
  let { own, found, fixed }: { own: ClassState; found: ClassShown; fixed: boolean } = $props();
  let chosen = $state('');
  const adapting = $derived(own.adapting.value);
  const mistake = $derived(
    adapting?.mistakes.find((each) => each.id === (chosen || found.room.mistake)) ?? adapting?.mistakes[0],
  );
  const as = (colours: Record<string, string>) => ({ colours, proportions: adapting?.proportions });

  whenever(
    () => found.room.plan,
    (plan) => {
      if (adapting?.plan_id !== plan) void own.adapting.load();
    },
  );
</script>

{#if own.adapting.failed || !adapting}
  <Awaited
    of={own.adapting}
    waits="Planning for eight kinds of skin…"
    says="It could not be planned for other skins"
  />
{:else}
  <div class="grid gap-2 xl:grid-cols-[3fr_2fr]">
    <section class="panel overflow-x-auto p-2.5" aria-label="If your skin is …">
      <h2 class="heading">If your skin is …</h2>
      <p class="label mb-1">Planned anew for each kind of skin, in the same school, with the same kit.</p>
      {#each adapting.branches as branch (branch.kind)}
        <h3 class="mt-2 font-semibold">
          {branch.words}
          {#if branch.as_shown}<span class="label font-normal">as shown on {branch.as_shown} skin</span>{/if}
        </h3>
        <ul>
          {#each branch.otherwise as each, place (place)}
            <li class="border-t border-line py-0.5">
              <b>If it is {each.skin}:</b>
              {each.says} <span class="label">{each.why}</span>
            </li>
          {/each}
        </ul>
      {/each}
    </section>
    <div class="flex min-w-0 flex-col gap-2">
      {#if mistake}
        <section class="panel p-2.5" aria-label="Right and wrong">
          <div class="flex flex-wrap items-center gap-2">
            <h2 class="heading">Right beside wrong</h2>
            <Choice
              label="Mistake"
              value={mistake.id}
              options={adapting.mistakes.map(({ id, words }) => ({ id, words }))}
              onchoose={(id) => (chosen = id)}
            />
            {#if !fixed && found.room.mistake !== mistake.id}
              <button class="btn" onclick={() => void own.change({ half: 'mistake', mistake: mistake.id })}
                >Show this in class</button
              >
            {/if}
          </div>
          <div class="mx-auto flex h-80 max-w-sm flex-col">
            <FaceSlider
              left={{ ...as(mistake.right), words: 'Right way' }}
              right={{ ...as(mistake.wrong), words: mistake.words }}
            />
          </div>
          <p class="mt-1">
            {mistake.comes_of_it}
            {#if mistake.look_de >= 1}Most to be seen {mistake.look_place}.{:else}Hardly seen at once: it
              shows in how it wears.{/if}
          </p>
          <ul class="list-disc pl-5">
            {#each mistake.says as says (says)}<li>{says}</li>{/each}
          </ul>
        </section>
      {/if}
      <section class="panel p-2.5" aria-label="Two camps, one reason">
        <h2 class="heading">Two camps, one reason</h2>
        {#each adapting.camps as card (card.question)}
          <div class="border-t border-line py-1">
            <h3 class="font-semibold">{card.question}</h3>
            <p><b>Here: {card.here.words}.</b> {card.here.why}</p>
            {#each card.others as other (other.words)}<p class="label">
                Others: {other.words}. {other.why}
              </p>{/each}
            <p class="italic">{card.one_reason}</p>
          </div>
        {/each}
      </section>
    </div>
  </div>
{/if}
