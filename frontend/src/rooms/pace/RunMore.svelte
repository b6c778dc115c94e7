<script lang="ts">
  import { api, ask, type Candidate, type Edit, type Offered, type Trial } from '../../api/client';
  import { Latest } from '../../parts/latest';
  import { notices } from '../../parts/notices.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import { clock } from './clock';
  import type { RunState } from './run.svelte';

  /** What a run seldom needs: done twice, skipped with what that costs, a note, another step first, another product, a step forgotten. */
  let { run, onclose }: { run: RunState; onclose: () => void } = $props();
  type Place = { before: string | null; says: string; refused: string | null; edits: Edit[] };
  let text = $state('');
  let cost = $state.raw<Trial | null>(null);
  let asking = $state('');
  let others = $state.raw<Candidate[] | null>(null);
  let offered = $state.raw<Offered[] | null>(null);
  let forgot = $state.raw<Offered | null>(null);
  let places = $state.raw<Place[] | null>(null);
  const sought = new Latest();
  const plan = $derived(run.live?.plan_id ?? '');
  const waiting = $derived(new Set(run.open.map((each) => each.step)));
  const speech = typeof window === 'undefined' ? undefined : recogniser();
  let listening = $state(false);

  interface Recogniser {
    lang: string;
    processLocally: boolean;
    /** What was heard stands in fields that the browser names. */
    onresult: (event: { results: { 0: { 0: { transcript: string } } } }) => void;
    onend: () => void;
    start: () => void;
  }

  /** Only a browser that can listen on this machine alone: what is said here goes nowhere else. */
  function recogniser(): (new () => Recogniser) | undefined {
    const own = window as unknown as Record<string, (new () => Recogniser) | undefined>;
    const found = own.SpeechRecognition;
    return found && 'processLocally' in found.prototype ? found : undefined;
  }

  function listen() {
    if (!speech) return;
    const ear = new speech();
    ear.lang = 'en';
    ear.processLocally = true;
    listening = true;
    ear.onresult = (event) => (text = `${text} ${event.results[0][0].transcript}`.trim());
    ear.onend = () => (listening = false);
    ear.start();
  }

  /** Ask the core; without it the run goes on, and only the answer is missing. */
  async function wanted<T>(what: string, call: () => Promise<T>): Promise<T | null> {
    asking = what;
    try {
      return await call();
    } catch (error) {
      notices.refuse(error);
      return null;
    } finally {
      asking = '';
    }
  }

  async function weigh() {
    const block = run.block;
    if (!block) return;
    const body = { edits: [{ edit: 'remove' as const, step: block.step }] };
    cost = await wanted('what that costs', () =>
      ask(api.POST('/api/sequences/{id}/try', { params: { path: { id: plan } }, body })),
    );
  }

  async function substitutes() {
    const block = run.block;
    if (!block) return;
    const found = await wanted('what could stand in', () =>
      ask(
        api.GET('/api/sequences/{id}/steps/{step}/candidates', {
          params: { path: { id: plan, step: block.step } },
        }),
      ),
    );
    others = found ? found.candidates.filter((each) => !each.current).slice(0, 5) : null;
  }

  async function palette() {
    const found = await wanted('what could be added', () =>
      ask(api.GET('/api/sequences/{id}/palette', { params: { path: { id: plan } } })),
    );
    offered = found ? found.offered.filter((each) => !each.missing && each.zones.length) : null;
  }

  async function late(each: Offered) {
    forgot = each;
    places = null;
    const params = { path: { id: plan } };
    const body = { kind: each.kind, zones: each.zones };
    const found = await wanted('where it could still go', () =>
      sought.of(ask(api.POST('/api/sequences/{id}/late', { params, body }))),
    );
    if (found === undefined) return;
    // What is done lies already: only before what is still to do, or at the end.
    places = found
      ? found.places.filter((place) => !place.refused && (!place.before || waiting.has(place.before)))
      : null;
  }

  async function take(edits: Edit[]) {
    await wanted('the plan to be changed', () => run.change(edits));
    onclose();
  }
</script>

<section class="panel shrink-0 p-3" aria-label="More">
  <div class="flex flex-wrap gap-2">
    {#if run.last}
      <button
        class="btn h-touch"
        onclick={() => {
          run.twice();
          onclose();
        }}>Did {run.last.title.toLowerCase()} twice</button
      >
    {/if}
    {#if run.block}
      <button class="btn h-touch" onclick={() => void weigh()}>Skip {run.block.title.toLowerCase()}…</button>
      {#if run.block.products.length}
        <button class="btn h-touch" onclick={() => void substitutes()}>Pack is empty…</button>
      {/if}
    {/if}
    <button class="btn h-touch" onclick={() => void palette()}>Forgot a step…</button>
    {#if run.log.done.length}
      <button class="btn h-touch" onclick={() => void run.finish()}>Finish here</button>
    {/if}
  </div>
  {#if asking}<p class="label mt-2" role="status">Asking {asking}…</p>{/if}
  {#if run.block && (cost || (run.sending.offline && !asking))}
    <div class="mt-2" aria-label="Skip it?" role="group">
      {#if cost}
        <p>
          {#if cost.look_de >= 1}
            Without it the base looks different, most {words.zone(cost.look_zone).toLowerCase()}: ΔE00
            {cost.look_de.toFixed(1)}.
          {:else}
            Without it hardly anything looks different.
          {/if}
        </p>
        <ul class="list-disc pl-5">
          {#each cost.come as finding (finding.says)}<li>{finding.says}</li>{/each}
        </ul>
      {:else}<p class="label">What skipping costs cannot be worked out while Nabrel does not answer.</p>{/if}
      <button
        class="btn mt-1"
        onclick={() => {
          run.skip();
          onclose();
        }}>Skip it</button
      >
    </div>
  {/if}
  {#if others}
    <ul class="mt-2 flex flex-col gap-1" aria-label="In its place">
      {#each others as each (each.product.id)}
        <li class="flex flex-wrap items-center gap-2">
          <button class="btn" onclick={() => void take(each.edits)}>{each.product.name}</button>
          <span class="label">{each.agreement}</span>
        </li>
      {:else}<li class="label">Nothing on the shelf could stand in.</li>{/each}
    </ul>
  {/if}
  {#if offered && !places}
    <ul class="mt-2 flex flex-wrap gap-1" aria-label="Forgotten">
      {#each offered as each (each.kind)}
        <li><button class="btn" onclick={() => void late(each)}>{words.step(each.kind)}</button></li>
      {/each}
    </ul>
  {/if}
  {#if places}
    <ul
      class="mt-2 flex flex-col gap-1"
      aria-label="Where {forgot ? words.step(forgot.kind) : ''} can still go"
    >
      {#each places.slice(0, 4) as place (place.before ?? 'last')}
        <li class="flex flex-wrap items-center gap-2">
          <button class="btn" onclick={() => void take(place.edits)}
            >{place.before
              ? `Before ${run.blocks.find((each) => each.step === place.before)?.title.toLowerCase() ?? 'the next'}`
              : 'Last'}</button
          >
          <span>{place.says}</span>
        </li>
      {:else}<li class="label">Nowhere any more, with what lies there by now.</li>{/each}
    </ul>
  {/if}
  <form
    class="mt-3 flex flex-wrap gap-2"
    onsubmit={(event) => {
      event.preventDefault();
      run.note(text);
      text = '';
    }}
  >
    <input
      class="field h-touch min-w-40 grow"
      aria-label="Note"
      maxlength="600"
      placeholder="A note"
      bind:value={text}
    />
    {#if speech}
      <button type="button" class="btn h-touch" aria-pressed={listening} onclick={listen}>Speak it</button>
    {/if}
    <button class="btn h-touch" disabled={!text.trim()}>Keep note</button>
  </form>
  <details class="mt-3">
    <summary class="label cursor-pointer">All steps still to do ({run.open.length})</summary>
    <ol class="mt-1 flex flex-col gap-1">
      {#each [...run.open, ...run.skipped] as each (each.id)}
        <li>
          <button
            class="btn w-full justify-between"
            aria-current={each.id === run.current ? 'step' : undefined}
            onclick={() => {
              run.choose(each.id);
              onclose();
            }}
            ><span>{each.number} {each.title} {each.where}</span><span class="tabular-nums"
              >{run.skipped.includes(each) ? 'skipped' : clock(each.seconds)}</span
            ></button
          >
        </li>
      {/each}
    </ol>
  </details>
</section>
