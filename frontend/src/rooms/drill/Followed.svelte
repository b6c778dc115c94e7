<script lang="ts">
  import type { Zone } from '../../api/client';
  import FaceSlider from '../../parts/face/FaceSlider.svelte';
  import AlignedSections from '../weigh/AlignedSections.svelte';
  import { finished } from '../weigh/weigh.svelte';
  import type { Follows } from './drill.svelte';
  import Face from '../../parts/face/Face.svelte';
  import Help from '../../parts/Help.svelte';

  /** What would follow, to be looked at: faces, sections, figures, the rule book with both views, and the plan. */
  let { follows }: { follows: Follows } = $props();
  let pointed = $state<Zone | null>(null);
  const [one, other] = $derived(follows.plans);
</script>

{#if follows.right_in.length}
  <section class="panel p-4" aria-label="Other schools">
    <h3 class="heading">Right elsewhere</h3>
    {#each follows.right_in as each (each)}<p>{each}</p>{/each}
  </section>
{/if}
{#if follows.says.length}
  <section class="panel p-4" aria-label="The rule book">
    <h3 class="heading">What the rule book says of it</h3>
    <ul>
      {#each follows.says as each, place (place)}
        <li class="border-t border-line py-1.5 first:border-t-0">
          <p>{each.says}</p>
          <p class="text-quiet">{each.why}</p>
          {#if each.other_view}<p><span class="label">Another view:</span> {each.other_view}</p>{/if}
        </li>
      {/each}
    </ul>
  </section>
{/if}
{#if one}
  <section class="panel flex flex-col gap-2 p-4" aria-label="To look at">
    <h3 class="heading">{other ? `${one.words}, and ${other.words.toLowerCase()}` : one.words}</h3>
    <div class="mx-auto flex h-80 w-full max-w-sm flex-col">
      {#if other}
        <FaceSlider
          left={{ ...finished(one.plan), words: one.words }}
          right={{ ...finished(other.plan), proportions: one.plan.proportions, words: other.words }}
        />
      {:else}
        <Face label={one.words} drawn={finished(one.plan)} />
      {/if}
    </div>
    <div class="overflow-x-auto">
      <div class="min-w-[44rem]"><AlignedSections candidates={follows.plans} bind:pointed /></div>
    </div>
    {#if follows.figures.length}
      <table class="w-full max-w-xl">
        <caption class="label pb-1 text-left">Figures that differ</caption>
        <thead>
          <tr class="label text-left"
            ><th class="font-normal">Figure</th><th class="font-normal">As planned</th><th class="font-normal"
              >{other?.words ?? ''}</th
            ></tr
          >
        </thead>
        <tbody>
          {#each follows.figures as row (row.name)}
            <tr class="border-t border-line">
              <th scope="row" class="py-1 text-left font-normal"
                >{row.name}{row.unit ? `, ${row.unit}` : ''}
                <Help of={row.figure} /> <span class="label">{row.wish}</span></th
              >
              <td class="tabular-nums">{row.planned.toFixed(row.decimals)}</td>
              <td class="tabular-nums">{row.answered.toFixed(row.decimals)}</td>
            </tr>
          {/each}
        </tbody>
      </table>
    {/if}
  </section>
  <details class="panel p-4">
    <summary class="heading cursor-pointer">Show me in the plan</summary>
    <ol class="mt-2">
      {#each follows.steps as step, place (step.id)}
        <li class="flex gap-2 border-t border-line py-1 {step.asked ? 'bg-accent-soft' : ''}">
          <span class="w-6 shrink-0 text-right tabular-nums">{place + 1}</span>
          <div class="min-w-0">
            <p class={step.asked ? 'font-semibold' : ''}>
              {step.says}{#if step.asked}<span class="label"> this is what was asked</span>{/if}
            </p>
            {#if step.asked}{#each step.why as why (why)}<p class="text-quiet">{why}</p>{/each}{/if}
          </div>
        </li>
      {/each}
    </ol>
  </details>
{/if}
