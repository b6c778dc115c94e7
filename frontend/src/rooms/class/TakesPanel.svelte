<script lang="ts">
  import type { ClassShown } from '../../api/client';
  import { p } from '../../router';

  /** What is weighed out, what is on the shelf and what to buy; tools by kind. */
  let { found }: { found: ClassShown } = $props();
  const money = (value: number | null | undefined) =>
    value === null || value === undefined ? '–' : value.toFixed(2);
  const working = $derived(found.lesson.students.filter((each) => each.face !== null).length);
  const amount = (value: number, unit: string) => `${Number(value.toPrecision(2))} ${unit}`;
</script>

<div class="grid gap-2 xl:grid-cols-[3fr_2fr]">
  <section class="panel overflow-x-auto p-2.5" aria-label="Weigh-out">
    <h2 class="heading">Product for the room</h2>
    <p class="mb-1">
      {#if found.lesson.cost !== null && working}
        <b>{money(found.lesson.cost)}</b> in all, {money(found.lesson.cost / working)} a student, with
        {Math.round(100 * (found.room.spare ?? 0.15))} % to spare.
      {/if}
      {found.lesson.costs_most}
    </p>
    {#if found.lesson.savings.length}
      <ul class="mb-1 list-disc pl-5">
        {#each found.lesson.savings as each (each.says)}
          <li>{each.says}{each.cost ? ` That saves ${money(each.cost)}.` : ''}</li>
        {/each}
      </ul>
    {/if}
    <table class="w-full text-left">
      <thead>
        <tr class="label">
          <th class="pr-3 font-normal">Item</th><th class="pr-3 font-normal">How much</th>
          <th class="pr-3 text-right font-normal">Cost</th><th class="pr-3 text-right font-normal"
            >On the shelf</th
          >
          <th class="text-right font-normal">To buy</th>
        </tr>
      </thead>
      <tbody class="tabular-nums">
        {#each found.buy as each (each.item)}
          <tr class="border-t border-line">
            <td class="py-0.5 pr-3">{each.name}</td>
            <td class="pr-3">{each.words}</td>
            <td class="pr-3 text-right">{money(each.cost)}</td>
            <td class="pr-3 text-right"
              >{each.left === null ? 'not counted' : amount(each.left, each.unit)}</td
            >
            <td class="text-right"
              >{#if each.packs}<b>{each.packs === 1 ? '1 pack' : `${each.packs} packs`}</b>{each.price
                  ? `, ${money(each.price)}`
                  : ''}{:else}–{/if}</td
            >
          </tr>
        {/each}
      </tbody>
    </table>
    <p class="mt-1">
      {found.buy.some((each) => each.packs)
        ? `To buy: ${money(found.buy_cost)} in all.`
        : found.buy.some((each) => each.left === null)
          ? 'What is counted on the shelf is enough.'
          : 'All of it is on the shelf.'}
      <a class="underline" href={p('/shelf')}>To the shelf</a>
    </p>
  </section>
  <section class="panel overflow-x-auto p-2.5" aria-label="Tools">
    <h2 class="heading">Tools</h2>
    <table class="w-full text-left">
      <thead>
        <tr class="label">
          <th class="pr-3 font-normal">Tool</th><th class="pr-3 text-right font-normal">At once</th>
          <th class="pr-3 text-right font-normal">Cleaned in between</th>
          <th class="pr-3 text-right font-normal">Ready</th><th class="pr-3 text-right font-normal"
            >To wash</th
          >
          <th class="text-right font-normal">To get</th>
        </tr>
      </thead>
      <tbody class="tabular-nums">
        {#each found.stock as each (each.tool)}
          <tr class="border-t border-line">
            <td class="py-0.5 pr-3">{each.words}</td>
            <td class="pr-3 text-right">{each.wanted}</td>
            <td class="pr-3 text-right">{each.cleaned || '–'}</td>
            <td class="pr-3 text-right">{each.ready}</td>
            <td class="pr-3 text-right">{each.to_wash || '–'}</td>
            <td class="text-right"
              >{#if each.buy}<b>{each.buy}</b>{:else}–{/if}</td
            >
          </tr>
        {/each}
      </tbody>
    </table>
    {#if found.sponges}<p class="mt-1">{found.sponges}</p>{/if}
  </section>
</div>
