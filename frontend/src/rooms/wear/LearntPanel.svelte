<script lang="ts">
  import type { Schemas } from '../../api/client';

  /** What the records teach: factors on the forecast, each with the interval that holds it in nine cases of ten. */
  let { found }: { found: Schemas['LearntWire'] } = $props();
  const measures = $derived([...new Set(found.effects.map((each) => each.about))]);
  let about = $state('shine_hours');
  const shown = $derived(measures.includes(about) ? about : (measures[0] ?? ''));
  const rows = $derived(found.effects.filter((each) => each.about === shown));
  const error = $derived(found.learnt.error);
  const LOW = Math.log(0.4);
  const HIGH = Math.log(2.5);
  const x = (factor: number) =>
    (100 * (Math.min(HIGH, Math.max(LOW, Math.log(factor))) - LOW)) / (HIGH - LOW);
  const counted = (count: number, what: string) => `${count} ${what}${count === 1 ? '' : 's'}`;
  const percent = (logs: number | null) =>
    logs === null ? '' : `${Math.round(100 * (Math.exp(logs) - 1))} %`;
</script>

<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
<section class="panel overflow-auto p-3" aria-label="What was learnt" tabindex="0">
  <h2 class="heading mb-1">What was learnt</h2>
  <p>
    From {counted(found.learnt.records, 'record')} with {counted(found.learnt.looks, 'look')}.
    {#if error.before !== null && error.after !== null && found.learnt.records > 1}
      Forecast hours lay off by {percent(error.before)}; with what the other records teach, by
      {percent(error.after)}.
    {/if}
    Nothing is changed by it.
  </p>
  {#if found.learnt.proposals.length}
    <h3 class="mt-2 font-semibold">Plain enough to act on</h3>
    <ul class="list-disc pl-5">
      {#each found.learnt.proposals as each (each.parameter)}<li>{each.says}</li>{/each}
    </ul>
  {/if}
  <div class="mt-2 flex flex-wrap gap-1" role="group" aria-label="What is forecast">
    {#each measures as each (each)}
      <button class="btn" aria-pressed={each === shown} onclick={() => (about = each)}
        >{found.effects.find((row) => row.about === each)?.about_words}</button
      >
    {/each}
  </div>
  <table class="mt-2 w-full text-left">
    <thead class="label"
      ><tr
        ><th class="pr-4 font-normal" scope="col">Whose</th><th class="pr-4 font-normal" scope="col"></th><th
          class="pr-4 text-right font-normal"
          scope="col">Times forecast</th
        ><th class="pr-4 text-right font-normal" scope="col">Nine in ten between</th><th
          class="w-1/3 pr-4 font-normal"
          scope="col"><span class="sr-only">Drawn</span></th
        ><th class="text-right font-normal" scope="col">Zones seen</th></tr
      ></thead
    >
    <tbody>
      {#each rows as each (`${each.of} ${each.name}`)}
        <tr class="border-t border-line {each.sure ? 'font-semibold' : ''}">
          <td class="pr-4 whitespace-nowrap">{each.of_words}</td>
          <td class="pr-4">{each.name}</td>
          <td class="pr-4 text-right tabular-nums">{each.factor.toFixed(2)}</td>
          <td class="pr-4 text-right whitespace-nowrap tabular-nums"
            >{each.low.toFixed(2)} to {each.high.toFixed(2)}</td
          >
          <td class="pr-4" aria-hidden="true">
            <svg viewBox="0 0 100 12" class="h-3 w-full" preserveAspectRatio="none">
              <path d="M{x(1)} 0V12" stroke="var(--quiet)" vector-effect="non-scaling-stroke" />
              <rect x={x(each.low)} y="4" width={x(each.high) - x(each.low)} height="4" fill="var(--line)" />
              <rect x={x(each.factor) - 0.6} y="1" width="1.2" height="10" fill="var(--accent)" />
            </svg>
          </td>
          <td class="text-right tabular-nums">{each.seen}</td>
        </tr>
      {/each}
    </tbody>
  </table>
  <p class="label mt-1">
    In bold: the interval does not hold 1, the forecast as it is. Who always wears the same products cannot be
    told from them: both intervals stay wide.
  </p>
</section>
