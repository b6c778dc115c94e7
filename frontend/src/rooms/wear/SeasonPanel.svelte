<script lang="ts">
  import { api, ask } from '../../api/client';
  import { words } from '../../parts/vocabulary.svelte';
  import CourseStrip from './CourseStrip.svelte';
  import { Resource } from '../../parts/resource.svelte';
  import { whenever } from '../../parts/whenever.svelte';
  import LoadFailed from '../../parts/LoadFailed.svelte';

  /** Where bases wear shorter than forecast; of one sitter also the course through the season, beside the readings of oil. */
  let { sitter, name }: { sitter: string; name: string } = $props();
  let sign = $state('shine');

  const season = new Resource(() =>
    ask(api.GET('/api/wears/season', { params: { query: sitter ? { sitter } : {} } })),
  );
  const found = $derived(season.value);
  whenever(
    () => sitter,
    () => void season.load(),
  );

  const signs = $derived([...new Set(found?.short.map((row) => row.sign))]);
  const rows = $derived(found?.short.filter((row) => row.sign === sign) ?? []);
  const course = $derived(found?.course.filter((day) => day.sign === sign) ?? []);
  const part = (count: number, row: { zones: number }) => `${(100 * count) / row.zones}%`;
</script>

{#if season.failed}
  <LoadFailed of={season} says="Where it wears short could not be told" />
{:else if found?.short.length}
  <section class="panel p-3" aria-label="Where it wears short">
    <div class="mb-1 flex flex-wrap items-baseline gap-2">
      <h2 class="heading">Where it wears short{name ? `: ${name}` : ''}</h2>
      <div class="flex gap-1" role="group" aria-label="Which sign">
        {#each signs as each (each)}
          <button class="btn" aria-pressed={each === sign} onclick={() => (sign = each)}
            >{words.sign(each)}</button
          >
        {/each}
      </div>
    </div>
    <table class="w-full text-left">
      <thead class="label"
        ><tr
          ><th class="pr-3 font-normal" scope="col">Part</th><th class="w-1/3 font-normal" scope="col"
            ><span class="sr-only">Drawn</span></th
          ><th class="pl-3 text-right font-normal" scope="col">Sooner</th><th
            class="pl-3 text-right font-normal"
            scope="col">Later</th
          ><th class="pl-3 text-right font-normal" scope="col">Zones seen</th></tr
        ></thead
      >
      <tbody>
        {#each rows as row (row.region)}
          <tr class="border-t border-line" title={row.says}>
            <th class="pr-3 font-normal" scope="row">{row.words}</th>
            <td aria-hidden="true">
              <span class="flex h-3 overflow-hidden rounded-control border border-line"
                ><span class="h-full bg-accent" style:width={part(row.sooner, row)}></span><span
                  class="h-full grow"
                ></span><span class="h-full bg-line" style:width={part(row.later, row)}></span></span
              >
            </td>
            <td class="pl-3 text-right tabular-nums">{row.sooner}</td>
            <td class="pl-3 text-right tabular-nums">{row.later}</td>
            <td class="pl-3 text-right tabular-nums">{row.zones}</td>
          </tr>
        {/each}
      </tbody>
    </table>
    <p class="label mt-1">From the left: sooner than forecast. From the right: later.</p>
    {#if course.length}<CourseStrip {course} oil={found.oil} place={found.oil_place} />{/if}
  </section>
{/if}
