<script lang="ts">
  import Check from '@lucide/svelte/icons/check';
  import { onMount } from 'svelte';
  import Choice from '../../parts/Choice.svelte';
  import { shortcuts } from '../../parts/shortcuts.svelte';
  import { p, route } from '../../router';
  import { clock } from './clock';
  import { RunState } from './run.svelte';
  import RunEnd from './RunEnd.svelte';
  import RunMore from './RunMore.svelte';
  import RunStep from './RunStep.svelte';
  import { HEARD, type Heard } from './sounds';
  import Awaited from '../../parts/Awaited.svelte';
  import { whenever } from '../../parts/whenever.svelte';

  const id = $derived(route.params.id ?? '');
  const run = $derived(new RunState(id));
  let more = $state(false);

  whenever(
    () => run,
    (opened) => {
      void opened.opening.load();
      const ticking = setInterval(() => opened.tick(), 250);
      return () => clearInterval(ticking);
    },
  );

  onMount(() => {
    let awake: { release: () => Promise<void> } | null = null;
    async function stayAwake() {
      if (document.visibilityState !== 'visible' || !('wakeLock' in navigator)) return;
      // Refused on a low battery: the run goes on, the screen may dim.
      awake = await navigator.wakeLock.request('screen').catch(() => null);
    }
    const online = () => void run.send();
    void stayAwake();
    document.addEventListener('visibilitychange', stayAwake);
    window.addEventListener('online', online);
    const undeclare = shortcuts.declare([
      ...[' ', 'PageDown', 'ArrowRight'].map((keys) => ({
        keys,
        does: 'Done: on to the next step (a foot pedal sends page keys)',
        run: () => run.advance(),
      })),
      ...['PageUp', 'ArrowLeft'].map((keys) => ({
        keys,
        does: 'Back to the step before',
        run: () => run.back(),
      })),
      {
        keys: 'p',
        does: 'Pause, and go on',
        run: () => (run.pausedAt === null ? run.pause() : run.resume()),
      },
      { keys: 'm', does: 'More: skip, note, another step, another product', run: () => (more = !more) },
    ]);
    return () => {
      undeclare();
      document.removeEventListener('visibilitychange', stayAwake);
      window.removeEventListener('online', online);
      void awake?.release();
    };
  });

  /** A tap anywhere that is not on a control is as good as the key. */
  function tap(event: MouseEvent) {
    const target = event.target as HTMLElement;
    if (target.closest('button, a, input, textarea, select, summary, [role="dialog"], [role="combobox"], li'))
      return;
    run.advance();
  }
</script>

<svelte:head><title>{run.block?.title ?? 'Run'} – Nabrel</title></svelte:head>

<!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_noninteractive_element_interactions -->
<main class="flex h-full flex-col gap-2 overflow-auto p-2 md:p-3" aria-label="The run" onclick={tap}>
  {#if run.opening.failed || !run.live}
    <div class="m-auto">
      <Awaited of={run.opening} waits="Laying out the steps…" says="This run cannot be opened">
        {#snippet leads()}<a class="btn" href={p('/')}>To the sitters</a>{/snippet}
      </Awaited>
    </div>
  {:else if run.finished}
    <RunEnd {run} />
  {:else}
    <header class="flex shrink-0 flex-wrap items-center gap-2">
      <a class="btn" href={p('/pace/:id', { params: { id: run.live.plan_id } })}>Leave</a>
      <p class="tabular-nums">
        <span class="label">Since the start</span>
        <b>{clock(run.now)}</b>
        <span class="label">of about {clock(run.live.length_s)}</span>
      </p>
      <span class="ml-auto flex items-center gap-2">
        <span class="label" role="status"
          >{run.sending.offline
            ? 'Nabrel does not answer: taps are kept here.'
            : run.sending.unsent
              ? 'Sending…'
              : 'Saved'}</span
        >
        <Choice
          label="Sound"
          value={run.bell.heard}
          options={HEARD}
          onchoose={(how) => run.bell.hear(how as Heard)}
        />
      </span>
    </header>
    {#if run.live.caution}
      <p class="panel shrink-0 p-2" role="note">
        <b>▲ {run.live.caution.lead}</b>
        {#if !run.log.done.length}{run.live.caution.says}{/if}
      </p>
    {/if}
    {#if run.sending.refused}<p class="panel shrink-0 p-2" role="alert">
        Not saved: {run.sending.refused}
      </p>{/if}
    {#if run.away > 120}
      <p class="panel flex shrink-0 items-center gap-2 p-2" role="status">
        <span class="grow"
          >{clock(run.away)} have passed since the last step was done. Nothing is lost.
          {#if run.resting.length}
            On the face: {run.resting
              .map((each) => `${each.title.toLowerCase()} for ${clock(each.seconds)}`)
              .join(', ')}.
          {/if}</span
        >
        <button class="btn" onclick={() => (run.away = 0)}>Go on</button>
      </p>
    {/if}
    {#if run.late.length}
      <ul class="panel shrink-0 p-2" aria-label="Too late by now">
        {#each run.late.slice(0, 2) as each (each.block.id)}
          <li><b>{each.block.title}</b> is {clock(each.by)} late. {each.says}</li>
        {/each}
      </ul>
    {/if}
    {#if run.pausedAt !== null}
      <section class="panel grid grow place-items-center p-4 text-center" aria-label="Paused">
        <div>
          <h1 class="text-3xl font-semibold">Paused</h1>
          <p class="my-2 text-xl tabular-nums">{clock(run.now - run.pausedAt)}</p>
          <p class="label my-2">What lies on the face goes on drying.</p>
          <button class="btn btn-main h-touch-xl px-6 text-xl" onclick={() => run.resume()}>Go on</button>
        </div>
      </section>
    {:else if run.block}
      <RunStep {run} block={run.block} />
    {:else}
      <section class="panel grid grow place-items-center p-4 text-center" aria-label="All done">
        <div>
          <h1 class="text-3xl font-semibold">All steps are done</h1>
          {#if run.skipped.length}
            <p class="my-2">Skipped: {run.skipped.map((each) => each.title.toLowerCase()).join(', ')}.</p>
          {/if}
          <button class="btn btn-main h-touch-xl px-6 text-xl" onclick={() => void run.finish()}>
            <Check size={24} aria-hidden="true" />Finish the run</button
          >
          <p class="label mt-2">Packs lose what was taken, and tools count as used.</p>
        </div>
      </section>
    {/if}
    <footer class="flex shrink-0 flex-wrap gap-2">
      <button class="btn h-touch-l px-4" disabled={!run.log.done.length} onclick={() => run.back()}
        >Back</button
      >
      {#if run.pausedAt === null}
        <button class="btn h-touch-l px-4" onclick={() => run.pause()}>Pause</button>
      {/if}
      <button class="btn h-touch-l px-4" aria-expanded={more} onclick={() => (more = !more)}>More</button>
      {#if run.block && run.pausedAt === null}
        <button
          class="btn btn-main ml-auto h-touch-l grow justify-center px-6 text-lg"
          onclick={() => run.advance()}
          >Done{run.next ? `. Next: ${run.next.title.toLowerCase()}` : ''}</button
        >
      {/if}
    </footer>
    {#if more}<RunMore {run} onclose={() => (more = false)} />{/if}
  {/if}
</main>
