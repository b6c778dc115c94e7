<script lang="ts">
  import type { Weighing } from '../../api/client';
  import Help from '../../parts/Help.svelte';
  import { LETTERS } from './weigh.svelte';

  /** Figures that differ, in the columns of the candidates above them. */
  let { found }: { found: Weighing } = $props();
</script>

<section aria-label="Figures that differ">
  {#if found.figures.length}
    <table class="w-full table-fixed">
      <caption class="sr-only">Figures that differ, the best marked with a star</caption>
      <colgroup>
        <col class="w-64" />
        {#each found.candidates as each, place (place)}<col data-of={each.words} />{/each}
      </colgroup>
      <thead>
        <tr class="label border-t border-line text-left">
          <th class="py-1 pr-2 font-normal">Figures that differ</th>
          {#each found.candidates as each, place (place)}
            <th class="border-l border-line px-2.5 font-normal"
              >{LETTERS[place]}<span class="sr-only"> {each.words}</span></th
            >
          {/each}
        </tr>
      </thead>
      <tbody>
        {#each found.figures as row (row.name)}
          <tr class="border-t border-line">
            <th scope="row" class="py-1 pr-2 text-left align-top font-normal"
              ><span class="flex flex-wrap items-baseline justify-between gap-x-2"
                ><span>{row.name}{row.unit ? `, ${row.unit}` : ''} <Help of={row.figure} /></span><span
                  class="label">{row.wish}</span
                ></span
              ></th
            >
            {#each row.values as value, place (place)}
              {@const best = row.best.includes(place)}
              <td class="border-l border-line px-2.5 py-1 align-top {best ? 'font-bold' : ''}"
                ><span class="inline-block w-14 text-right">{value.toFixed(row.decimals)}</span>
                {#if best}<span class="ml-2">★ best</span>{/if}</td
              >
            {/each}
          </tr>
        {/each}
      </tbody>
    </table>
  {:else}<p class="border-t border-line py-1.5">
      Nothing differs in the figures: they are the same base.
    </p>{/if}
</section>
