<script lang="ts">
  import { onMount } from 'svelte';
  import Play from '@lucide/svelte/icons/play';
  import Choice from '../../parts/Choice.svelte';
  import { notices } from '../../parts/notices.svelte';
  import RoomBar from '../../parts/RoomBar.svelte';
  import { shortcuts } from '../../parts/shortcuts.svelte';
  import { navigate, p, route } from '../../router';
  import { clock, timeOfDay } from './clock';
  import { PaceState } from './pace.svelte';
  import ScoreView from './ScoreView.svelte';
  import WaitsPanel from './WaitsPanel.svelte';
  import Awaited from '../../parts/Awaited.svelte';
  import { whenever } from '../../parts/whenever.svelte';
  import Field from '../../parts/Field.svelte';

  const id = $derived(route.params.id ?? '');
  const pace = $derived(new PaceState(id));
  const table = $derived(pace.table);
  const MOMENTS = [
    ['start', 'Starts at'],
    ['ready', 'Ready at'],
  ] as const;
  let beginning = $state(false);
  /** The row of the list at which each step starts. */
  const starts = $derived(
    new Map((table?.tasks ?? []).map((task, place) => [task.step, place] as const).reverse()),
  );
  const inCalendar = $derived.by(() => {
    const today = new Date();
    const two = (number: number) => String(number).padStart(2, '0');
    const day = `${today.getFullYear()}-${two(today.getMonth() + 1)}-${two(today.getDate())}`;
    const at = pace.start || `${two(today.getHours())}:${two(today.getMinutes())}`;
    return `/api/sequences/${id}/calendar?start=${day}T${at}:00&pace=${pace.pace}`;
  });

  async function begin() {
    beginning = true;
    try {
      await navigate('/run/:id', { params: { id: await pace.begin() } });
    } catch (error) {
      notices.refuse(error);
    } finally {
      beginning = false;
    }
  }

  whenever(
    () => pace,
    (opened) => {
      void opened.find();
      void opened.listRuns();
    },
  );

  onMount(() =>
    shortcuts.declare([
      { keys: 'r', does: 'Start the run', run: () => void (table?.possible && begin()) },
      { keys: 'h', does: 'One or two pairs of hands', run: () => void hands() },
      {
        keys: 'l',
        does: 'Back to the Layer room',
        run: () => void navigate('/plans/:id', { params: { id } }),
      },
    ]),
  );

  function hands() {
    return pace.change({ hands: pace.hands === '1' ? '2' : '1' });
  }

  function saved(length: number): string {
    return `${Math.round((length - (table?.length_s ?? 0)) / 60)} min`;
  }
</script>

{#snippet when()}
  <section class="panel flex shrink-0 flex-wrap items-center gap-2 p-2" aria-label="When">
    <button
      class="btn"
      aria-pressed={pace.timing?.sides === 'one_first'}
      title="One half wholly before the other shows the difference best; both together keeps them alike"
      onclick={() => void pace.time({ sides: pace.timing?.sides === 'one_first' ? 'together' : 'one_first' })}
      >One side first</button
    >
    {#each MOMENTS as [name, said] (name)}
      <Field
        label={said}
        beside
        type="time"
        value={pace.timing?.[name] ?? ''}
        onchange={(event) => void pace.time({ [name]: event.currentTarget.value || null })}
      />
    {/each}
    {#if pace.unsaved && table?.possible}
      <button class="btn" onclick={() => void pace.save()}>Keep these times</button>
    {/if}
    {#if table?.possible}
      <a class="btn" href={inCalendar} download>To the calendar</a>
    {/if}
  </section>
{/snippet}

<svelte:head><title>{pace.score ? `${pace.score.nickname} – ` : ''}Pace – Nabrel</title></svelte:head>

<div class="flex h-full flex-col">
  <RoomBar room="pace">
    <h1 class="max-w-64 truncate font-semibold">{pace.score?.title ?? 'Pace'}</h1>
    {#if table?.possible}
      <button class="btn btn-main" disabled={beginning} onclick={() => void begin()}
        ><Play size={15} aria-hidden="true" />Start the run</button
      >
    {/if}
    <Choice
      label="Whose hands"
      value={pace.pace}
      options={pace.paces}
      onchoose={(chosen) => void pace.change({ pace: chosen })}
    />
    <button
      class="btn"
      aria-pressed={pace.hands === '2'}
      title="One or two pairs of hands (h)"
      onclick={() => void hands()}>Second pair of hands</button
    >
    {#if pace.spare.length}
      <button class="btn" onclick={() => void pace.change({ spare: [] })}>Without the spare tool</button>
    {/if}
    {#if pace.finding.loading}
      <span class="flex items-center gap-2"
        ><span class="label" role="status">Looking for the shortest order…</span>
        {#if pace.score}<button class="btn" onclick={() => pace.cancel()}>Stop looking</button>{/if}</span
      >
    {/if}
  </RoomBar>
  {#if pace.finding.failed || !pace.score || !table}
    <Awaited
      of={pace.finding}
      waits="Looking for the shortest order…"
      says="There is no timetable of this plan"
      room
    >
      {#snippet leads()}<a class="btn" href={p('/')}>To the sitters</a>{/snippet}
    </Awaited>
  {:else if !table.possible}
    <main class="flex grow flex-col items-center gap-3 overflow-auto p-4">
      {@render when()}
      <div class="panel max-w-2xl p-6">
        <h2 class="heading text-lg">These cannot all be kept</h2>
        <ul class="my-2 list-disc pl-5">
          {#each table.because as reason (reason)}<li>{reason}</li>{/each}
        </ul>
        {#if table.frees.length}
          <p class="label">Any of these would free it:</p>
          <ul class="list-disc pl-5">
            {#each table.frees as way (way)}<li>{way}</li>{/each}
          </ul>
        {/if}
        <button class="btn mt-3" onclick={() => void pace.goBack()}>Take the last change back</button>
      </div>
    </main>
  {:else}
    <main class="flex min-h-0 grow flex-col gap-2 overflow-auto p-2" aria-busy={pace.finding.loading}>
      <section
        class="panel flex shrink-0 flex-wrap items-baseline gap-x-6 gap-y-1 p-3"
        aria-label="How long it takes"
      >
        <p class="text-xl font-semibold tabular-nums">{clock(table.length_s ?? 0)}</p>
        <p>
          {table.proven ? 'The shortest there is: proven.' : 'The shortest found; not proven the shortest.'}
          {#if pace.start}
            From {pace.start} to {timeOfDay(pace.start, table.length_s ?? 0)}.
          {/if}
        </p>
        <p>
          <span class="label">As listed, each step waited out</span>
          <span class="tabular-nums">{clock(table.as_listed_s)}</span>, {saved(table.as_listed_s)} longer
        </p>
        <p>
          <span class="label">Whatever is ready next</span>
          {#if table.greedy_s === null}
            runs into a dead end
          {:else}
            <span class="tabular-nums">{clock(table.greedy_s)}</span>
          {/if}
        </p>
      </section>
      {@render when()}
      {#if pace.score.lacks.length || pace.score.owned_spare.length}
        <p class="panel shrink-0 p-2">
          {#if pace.score.lacks.length}
            Not on the shelf: {pace.score.lacks.join(', ')}. Another tool, or clean fingers, will have to do.
          {/if}
          {#if pace.score.owned_spare.length}
            More than one is ready: {pace.score.owned_spare.join(', ')}.
          {/if}
        </p>
      {/if}
      <section
        class="panel flex shrink-0 flex-wrap items-center gap-2 p-3"
        aria-label="What would shorten it"
      >
        <span class="label">What if:</span>
        {#if !pace.whatIf?.length}
          <span class="flex h-control items-center"
            >{pace.whatIf
              ? 'neither another pair of hands nor another tool would save half a minute'
              : 'looking…'}</span
          >
        {/if}
        {#each pace.whatIf ?? [] as each (each.says)}
          {#if each.hands !== null && each.spare !== null}
            <button
              class="btn"
              onclick={() =>
                void pace.change({ hands: each.hands === 2 ? '2' : '1', spare: [...(each.spare ?? [])] })}
              >{each.says}: {clock(each.length_s)}</button
            >
          {:else}
            <button
              class="btn"
              title="Changes the plan; it can be undone in the Layer room"
              onclick={() => void pace.edit(each.edits)}>{each.says}: {clock(each.length_s)}</button
            >
          {/if}
        {/each}
      </section>
      <section class="panel shrink-0 p-3" aria-label="The score">
        <ScoreView
          score={pace.score}
          start={pace.start}
          pointed={pace.pointed}
          onpoint={(step) => (pace.pointed = step)}
          pins={pace.pins}
          onpin={(step, at) => void pace.pin(step, at)}
        />
        <p class="label mt-2">
          Bars have the colour of what is laid; underlined, the chain of steps that binds the length; hatched,
          a tool being cleaned. A bar too short for words has the number of its step. A long rest in which no
          hand works is drawn short. Drag a bar of the hands, or use the list, to pin a step to its time: the
          rest gives way.
        </p>
      </section>
      <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
      <section class="panel shrink-0 overflow-x-auto p-3" aria-label="The order of the hands" tabindex="0">
        <h2 class="heading mb-1">The order of the hands</h2>
        <table class="w-full text-left">
          <thead class="label"
            ><tr
              ><th class="pr-4 font-normal" scope="col">{pace.start ? 'At' : 'From'}</th><th
                class="pr-4 font-normal"
                scope="col">For</th
              ><th class="pr-4 font-normal" scope="col">Step</th><th class="pr-4 font-normal" scope="col"
                >What</th
              ><th class="pr-4 font-normal" scope="col">Where</th><th class="pr-4 font-normal" scope="col"
                >Tool</th
              ><th class="font-normal" scope="col">Pin</th></tr
            ></thead
          >
          <tbody>
            {#each table.tasks as task, place (`${task.step} ${task.portion} ${task.what} ${task.start_s}`)}
              {@const said = pace.score.tasks[place]}
              <tr
                class="border-t border-line {pace.pointed === task.step ? 'bg-accent-soft' : ''}"
                onpointerenter={() => (pace.pointed = task.step)}
                onpointerleave={() => (pace.pointed = null)}
              >
                <td class="pr-4 whitespace-nowrap tabular-nums"
                  >{pace.start ? timeOfDay(pace.start, task.start_s) : clock(task.start_s)}</td
                >
                <td class="pr-4 whitespace-nowrap tabular-nums">{clock(task.end_s - task.start_s)}</td>
                <td class="pr-4 tabular-nums">{task.what === 'clean' ? '' : said?.number}</td>
                <td class="pr-4 whitespace-nowrap">{said?.words}</td>
                <td class="pr-4">{said?.where}</td>
                <td class="pr-4 whitespace-nowrap">{task.of.replaceAll('_', ' ').replace(/ 1$/, '')}</td>
                <td class="whitespace-nowrap">
                  {#if starts.get(task.step) === place}
                    {@const pinned = pace.pins[task.step]}
                    <button
                      class="btn h-control-s px-2"
                      aria-pressed={pinned !== undefined}
                      aria-label="Pin {said?.words} to {clock(task.start_s)}"
                      onclick={() =>
                        void (pinned === undefined
                          ? pace.pin(task.step, task.start_s)
                          : pace.unpin(task.step))}>{pinned === undefined ? 'Pin' : 'Pinned'}</button
                    >
                    {#if pinned !== undefined}
                      {#each [-30, 30] as by (by)}
                        <button
                          class="btn h-control-s px-2"
                          aria-label="{said?.words} half a minute {by < 0 ? 'earlier' : 'later'}"
                          onclick={() => void pace.pin(task.step, pinned + by)}
                          >{by < 0 ? '−30 s' : '+30 s'}</button
                        >
                      {/each}
                    {/if}
                  {/if}
                </td>
              </tr>
            {/each}
          </tbody>
        </table>
      </section>
      <WaitsPanel {pace} />
      {#if pace.runs.length}
        <section class="panel shrink-0 p-3" aria-label="Runs">
          <h2 class="heading mb-1">Runs of this plan</h2>
          {#if pace.hand}<p class="mb-1">{pace.hand.says}</p>{/if}
          <ul class="flex flex-col gap-1">
            {#each pace.runs as each (each.run_id)}
              <li class="flex flex-wrap items-center gap-3">
                <a class="btn" href={p('/run/:id', { params: { id: each.run_id } })}
                  >{new Date(each.started).toLocaleString([], { dateStyle: 'medium', timeStyle: 'short' })}</a
                >
                <span class="tabular-nums">{clock(each.length_s)}</span>
                <span class="label"
                  >{each.finished ? 'finished' : 'still going on'}, {each.steps} of {each.of} steps</span
                >
              </li>
            {/each}
          </ul>
        </section>
      {/if}
    </main>
  {/if}
</div>
