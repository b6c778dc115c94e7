<script lang="ts">
  import Check from '@lucide/svelte/icons/check';
  import { p, route } from '../../router';
  import { spoken } from './hours';
  import { LiveClass, PHASES } from './live.svelte';
  import { whenever } from '../../parts/whenever.svelte';
  import Awaited from '../../parts/Awaited.svelte';
  import Field from '../../parts/Field.svelte';

  /** The hand-held page: what now, whose turn, who was checked, and what was asked. */
  const id = $derived(route.params.id ?? '');
  const live = $derived(new LiveClass(id));
  const now = $derived(live.now);
  const part = $derived(live.part);
  const next = $derived(live.following);
  let question = $state('');
  const STATES = {
    to_come: 'to come',
    working: 'at work',
    to_check: 'wait for a check',
    again: 'once more',
    checked: 'checked',
  } as const;

  whenever(
    () => live,
    (opened) => opened.start(),
  );

  /** Everybody who is here, with how they stand in this block; whoever is not in it stands apart. */
  const turns = $derived(now?.turns ?? []);

  async function ask(event: SubmitEvent) {
    event.preventDefault();
    const step = part?.step ?? now?.blocks[0]?.id;
    if (!question.trim() || !step) return;
    if (await live.happened({ event: 'ask', text: question.trim(), step })) question = '';
  }
</script>

<svelte:head><title>{now ? `${now.title} · ` : ''}Teach · Nabrel</title></svelte:head>

<main class="mx-auto flex h-full w-full max-w-xl flex-col gap-3 overflow-auto p-3">
  {#if !now}
    <Awaited of={live.asking} says="This class could not be opened">
      {#snippet leads()}<a class="btn" href={p('/class')}>All classes</a>{/snippet}
    </Awaited>
  {:else}
    <header class="flex flex-wrap items-baseline justify-between gap-2">
      <h1 class="min-w-0 font-semibold break-words">{now.title}</h1>
      <a class="underline" href={p('/class/:id', { params: { id } })}>To the class</a>
    </header>
    {#if live.away}
      <p class="panel p-2" role="status">
        Nabrel does not answer. What is shown is from before; try again in a moment.
      </p>
    {/if}
    {#if now.held}
      <p class="panel p-2">
        This class was held. <a class="underline" href={p('/recap/:id', { params: { id } })}>To the recap</a>
      </p>
    {:else if !now.begun}
      <section class="panel flex flex-col gap-2 p-3" aria-label="Before the beginning">
        <p>
          {now.phases.length} parts, {spoken(now.end_s)} in all. First {now.phases[0]?.words}. Tap who is not
          here.
        </p>
        <button
          class="btn btn-main h-touch-l justify-center text-base"
          disabled={live.busy}
          onclick={() => void live.happened({ event: 'begin' })}>Begin the class</button
        >
      </section>
    {:else if live.over}
      <section class="panel flex flex-col gap-2 p-3" aria-label="The end">
        <p><b>Every part is over.</b> Remind everybody of the second look in 20 to 30 minutes.</p>
        <a class="btn btn-main h-touch-l justify-center text-base" href={p('/recap/:id', { params: { id } })}
          >To the recap</a
        >
        <button class="btn" disabled={live.busy} onclick={() => void live.happened({ event: 'back' })}
          >Back to the last part</button
        >
      </section>
    {:else if part}
      <section class="panel flex flex-col gap-2 p-3" aria-label="Now">
        <div class="flex items-baseline justify-between gap-3">
          <h2 class="text-xl font-bold">{PHASES[part.phase]}: {part.words || 'tidy, and rest'}</h2>
          <span class="text-2xl font-bold tabular-nums" role="timer" aria-label="Time left">{live.left}</span>
        </div>
        {#if part.steps.length}<p class="label">{part.steps.join(', ')}</p>{/if}
        {#if now.late_s >= 60}
          <p role="status">
            <b>{spoken(now.late_s)} behind.</b>
            {#if now.over_s}{spoken(now.over_s)} beyond the room’s hours.{/if}
          </p>
        {/if}
        {#if now.gives.length}
          <div>
            <p class="label">So that it ends in time, this gives:</p>
            <ul class="list-disc pl-5">
              {#each now.gives as says (says)}<li>{says}</li>{/each}
            </ul>
          </div>
        {/if}
        <button
          class="btn btn-main h-touch-l justify-center text-base"
          disabled={live.busy}
          onclick={() => live.next()}
          >{next
            ? `On: ${PHASES[next.phase].toLowerCase()}${next.words ? ` ${next.words}` : ''}`
            : 'End class'}</button
        >
        <div class="flex flex-wrap gap-2">
          <button
            class="btn"
            disabled={live.busy || !now.phases.some((each) => each.standing === 'over')}
            onclick={() => void live.happened({ event: 'back' })}>Back</button
          >
          <button class="btn" disabled={live.busy} onclick={() => live.next(true)}>Leave this out</button>
          <a class="btn ml-auto" href={p('/board/:id', { params: { id } })}>Projector page</a>
        </div>
      </section>
    {/if}
    {#if part?.phase === 'practise' && turns.length && part}
      {@const step = part.step}
      <section class="panel p-3" aria-label="Turns">
        <h2 class="heading">Whose turn</h2>
        <ul>
          {#each turns as each (each.student)}
            <li class="flex flex-wrap items-center gap-2 border-t border-line py-1.5">
              <button
                class="btn h-touch min-w-0 grow justify-between text-base"
                aria-pressed={each.state === 'checked'}
                aria-label="{each.student}, station {each.station}, {STATES[each.state]}. {each.state ===
                'checked'
                  ? 'Take the check back'
                  : 'Checked'}"
                disabled={live.busy}
                onclick={() =>
                  void live.happened({
                    event: each.state === 'checked' ? 'uncheck' : 'check',
                    student: each.student,
                    step,
                  })}
              >
                <span class="min-w-0 truncate"
                  ><b>{each.student}</b> <span class="label">station {each.station}</span></span
                >
                <span class="flex shrink-0 items-center gap-1"
                  >{STATES[each.state]}{#if each.state === 'checked'}<Check
                      size={16}
                      aria-hidden="true"
                    />{/if}</span
                >
              </button>
              <button
                class="btn h-touch"
                aria-pressed={each.state === 'again'}
                disabled={live.busy}
                aria-label="{each.student} practises it once more"
                onclick={() =>
                  void live.happened({
                    event: each.state === 'again' ? 'uncheck' : 'again',
                    student: each.student,
                    step,
                  })}>Once more</button
              >
            </li>
          {/each}
        </ul>
      </section>
    {/if}
    {#if now.begun && !now.held}
      <form class="panel flex flex-col gap-2 p-3" onsubmit={ask} aria-label="Questions">
        <Field
          label="Question for the recap (no names)"
          class="h-touch text-base"
          maxlength={300}
          bind:value={question}
        />
        <button class="btn h-touch justify-center" disabled={live.busy || !question.trim()}>Note it</button>
        {#if now.questions.length}
          <ul>
            {#each now.questions as each, place (place)}
              <li class="flex items-start justify-between gap-2 border-t border-line py-1">
                <span class="min-w-0 break-words">{each.text}</span>
                <button
                  type="button"
                  class="btn"
                  disabled={live.busy}
                  aria-label="Forget the question: {each.text}"
                  onclick={() => void live.happened({ event: 'forget_question', place })}>Forget</button
                >
              </li>
            {/each}
          </ul>
        {/if}
      </form>
    {/if}
    {#if !now.held}
      <details class="panel p-3" open={!now.begun}>
        <summary class="heading cursor-pointer"
          >Who is here ({now.students.length - now.absent.length} of {now.students.length})</summary
        >
        <ul class="mt-1 grid gap-1 sm:grid-cols-2">
          {#each now.students as student (student)}
            {@const absent = now.absent.includes(student)}
            <li>
              <button
                class="btn h-touch w-full justify-between"
                aria-pressed={!absent}
                disabled={live.busy}
                onclick={() => void live.happened({ event: absent ? 'present' : 'absent', student })}
                ><span class="min-w-0 truncate">{student}</span><span class="label"
                  >{absent ? 'not here' : 'here'}</span
                ></button
              >
            </li>
          {/each}
        </ul>
      </details>
    {/if}
  {/if}
</main>
