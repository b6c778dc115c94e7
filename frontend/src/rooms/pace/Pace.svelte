<script lang="ts">
  import { onMount, untrack } from 'svelte';
  import Choice from '../../parts/Choice.svelte';
  import RoomBar from '../../parts/RoomBar.svelte';
  import { shortcuts } from '../../parts/shortcuts.svelte';
  import { navigate, p, route } from '../../router';
  import { clock, PaceState, timeOfDay } from './pace.svelte';
  import ScoreView from './ScoreView.svelte';

  const id = $derived(route.pathname.split('/')[2] ?? '');
  const state = $derived(new PaceState(id));
  const table = $derived(state.table);

  $effect(() => {
    const opened = state;
    untrack(() => void opened.find());
  });

  onMount(() =>
    shortcuts.declare([
      { keys: 'h', does: 'One or two pairs of hands', run: () => void hands() },
      {
        keys: 'l',
        does: 'Back to the Layer room',
        run: () => void navigate('/plans/:id', { params: { id } }),
      },
    ]),
  );

  function hands() {
    return state.change({ hands: state.hands === '1' ? '2' : '1' });
  }

  function saved(length: number): string {
    return `${Math.round((length - (table?.length_s ?? 0)) / 60)} min`;
  }
</script>

<svelte:head><title>{state.score ? `${state.score.nickname} – ` : ''}Pace – Nabrel</title></svelte:head>

<div class="flex h-full flex-col">
  <RoomBar room="pace">
    <h1 class="max-w-64 truncate font-semibold">{state.score?.title ?? 'Pace'}</h1>
    <Choice
      label="Whose hands"
      value={state.pace}
      options={state.paces}
      onchoose={(pace) => void state.change({ pace })}
    />
    <button
      class="btn"
      aria-pressed={state.hands === '2'}
      title="One or two pairs of hands (h)"
      onclick={() => void hands()}>Second pair of hands</button
    >
    {#if state.spare.length}
      <button class="btn" onclick={() => void state.change({ spare: [] })}>Without the spare tool</button>
    {/if}
    <label class="flex items-center gap-2"
      ><span class="label">Starts at</span>
      <input
        type="time"
        class="h-8 rounded-sm border border-line bg-well px-2"
        bind:value={state.start}
      /></label
    >
    <span class="label" role="status">{state.busy ? 'Looking for the shortest order…' : ''}</span>
  </RoomBar>
  {#if state.failed}
    <main class="grid grow place-items-center p-4">
      <div class="panel max-w-lg p-6" role="alert">
        <h2 class="heading text-lg">There is no timetable of this plan</h2>
        <p class="my-2">{state.failed}</p>
        <button class="btn" onclick={() => void state.find()}>Try again</button>
        <a class="btn" href={p('/')}>To the sitters</a>
      </div>
    </main>
  {:else if !state.score || !table}
    <main class="grid grow place-items-center"><p role="status">Looking for the shortest order…</p></main>
  {:else if !table.possible}
    <main class="flex grow flex-col items-center gap-3 overflow-auto p-4">
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
      </div>
    </main>
  {:else}
    <main class="flex min-h-0 grow flex-col gap-2 overflow-auto p-2" aria-busy={state.busy}>
      <section
        class="panel flex shrink-0 flex-wrap items-baseline gap-x-6 gap-y-1 p-3"
        aria-label="How long it takes"
      >
        <p class="text-xl font-semibold tabular-nums">{clock(table.length_s ?? 0)}</p>
        <p>
          {table.proven ? 'The shortest there is: proven.' : 'The shortest found; not proven the shortest.'}
          {#if state.start}
            From {state.start} to {timeOfDay(state.start, table.length_s ?? 0)}.
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
      {#if state.score.what_if.length}
        <section
          class="panel flex shrink-0 flex-wrap items-center gap-2 p-3"
          aria-label="What would shorten it"
        >
          <span class="label">What if:</span>
          {#each state.score.what_if as each (each.says)}
            {#if each.hands !== null && each.spare !== null}
              <button
                class="btn"
                onclick={() =>
                  void state.change({ hands: each.hands === 2 ? '2' : '1', spare: [...(each.spare ?? [])] })}
                >{each.says}: {clock(each.length_s)}</button
              >
            {:else}
              <span>{each.says}: <span class="tabular-nums">{clock(each.length_s)}</span></span>
            {/if}
          {/each}
        </section>
      {/if}
      <section class="panel shrink-0 p-3" aria-label="The score">
        <ScoreView
          score={state.score}
          start={state.start}
          pointed={state.pointed}
          onpoint={(step) => (state.pointed = step)}
        />
        <p class="label mt-2">
          Bars have the colour of what is laid; underlined, the chain of steps that binds the length; hatched,
          a tool being cleaned. A bar too short for words has the number of its step. A long rest in which no
          hand works is drawn short.
        </p>
      </section>
      <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
      <section class="panel shrink-0 overflow-x-auto p-3" aria-label="The order of the hands" tabindex="0">
        <h2 class="heading mb-1">The order of the hands</h2>
        <table class="w-full text-left">
          <thead class="label"
            ><tr
              ><th class="pr-4 font-normal" scope="col">{state.start ? 'At' : 'From'}</th><th
                class="pr-4 font-normal"
                scope="col">For</th
              ><th class="pr-4 font-normal" scope="col">Step</th><th class="pr-4 font-normal" scope="col"
                >What</th
              ><th class="pr-4 font-normal" scope="col">Where</th><th class="font-normal" scope="col">Tool</th
              ></tr
            ></thead
          >
          <tbody>
            {#each table.tasks as task, place (`${task.step} ${task.portion} ${task.what} ${task.start_s}`)}
              {@const said = state.score.tasks[place]}
              <tr
                class="border-t border-line {state.pointed === task.step ? 'bg-accent-soft' : ''}"
                onpointerenter={() => (state.pointed = task.step)}
                onpointerleave={() => (state.pointed = null)}
              >
                <td class="pr-4 whitespace-nowrap tabular-nums"
                  >{state.start ? timeOfDay(state.start, task.start_s) : clock(task.start_s)}</td
                >
                <td class="pr-4 whitespace-nowrap tabular-nums">{clock(task.end_s - task.start_s)}</td>
                <td class="pr-4 tabular-nums">{task.what === 'clean' ? '' : said?.number}</td>
                <td class="pr-4 whitespace-nowrap">{said?.words}</td>
                <td class="pr-4">{said?.where}</td>
                <td class="whitespace-nowrap">{task.of.replaceAll('_', ' ').replace(/ 1$/, '')}</td>
              </tr>
            {/each}
          </tbody>
        </table>
      </section>
    </main>
  {/if}
</div>
