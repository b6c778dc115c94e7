<script lang="ts">
  import { api, ask, type Schemas } from '../../api/client';
  import Help from '../../parts/Help.svelte';
  import { notices } from '../../parts/notices.svelte';
  import { tried } from '../../parts/tried';
  import TakenOver from '../house/TakenOver.svelte';
  import Proposal from './Proposal.svelte';

  /** What the records teach: factors on the forecast, each with the interval that holds it in nine cases of ten. */
  let {
    found,
    onchange,
  }: { found: Schemas['LearntWire']; onchange: (found: Schemas['LearntWire']) => void } = $props();
  let busy = $state(false);
  const measures = $derived([...new Set(found.effects.map((each) => each.about))]);
  let about = $state('shine_hours');
  const shown = $derived(measures.includes(about) ? about : (measures[0] ?? ''));
  const rows = $derived(found.effects.filter((each) => each.about === shown));
  const error = $derived(found.learnt.error);
  const LOW = Math.log(0.4);
  const HIGH = Math.log(2.5);
  const x = (factor: number) =>
    (100 * (Math.min(HIGH, Math.max(LOW, Math.log(factor))) - LOW)) / (HIGH - LOW);
  async function changed(call: Promise<unknown>, says: string) {
    busy = true;
    const done = await tried(call);
    const now = await tried(ask(api.GET('/api/learnt')));
    busy = false;
    if (now) onchange(now);
    if (done) notices.say(says);
  }

  function take({ parameter, to }: Schemas['ProposalModel']) {
    const body = { parameter, to };
    return changed(
      ask(api.POST('/api/learnt/taken-over', { body })),
      'Forecasts use it from now on. House rules lists it, and it can be undone.',
    );
  }

  function undo(number: number) {
    return changed(
      ask(api.DELETE('/api/house/taken-over/{number}', { params: { path: { number } } })),
      'Undone: forecasts are as before.',
    );
  }

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
      Forecast hours were off by {percent(error.before)}; with what the other records teach, by
      {percent(error.after)}.
    {/if}
    Nothing changes until you agree to it.
  </p>
  {#if found.learnt.proposals.length}
    <h3 class="mt-2 font-semibold">Plain enough to act on</h3>
    <ul>
      {#each found.learnt.proposals as each (each.parameter)}
        <Proposal proposal={each} {busy} ontake={take} />
      {/each}
    </ul>
  {/if}
  {#if found.taken_over.length}
    <h3 class="mt-2 font-semibold">Used in forecasts</h3>
    <TakenOver taken={found.taken_over} onundo={undo} />
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
          scope="col">Times forecast <Help of="factor" /></th
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
