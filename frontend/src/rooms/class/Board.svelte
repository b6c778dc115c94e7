<script lang="ts">
  import { p, route } from '../../router';
  import { spoken } from './hours';
  import { LiveClass, PHASES } from './live.svelte';
  import { whenever } from '../../parts/whenever.svelte';
  import Awaited from '../../parts/Awaited.svelte';

  /** What the projector shows: what now, until when, who needs a turn. Read from the back of the room. */
  const id = $derived(route.params.id ?? '');
  const live = $derived(new LiveClass(id));
  const now = $derived(live.now);
  const part = $derived(live.part);
  const next = $derived(live.following);
  const working = $derived(now?.turns.filter((each) => each.state === 'working') ?? []);
  const waiting = $derived(
    now?.turns.filter((each) => each.state === 'to_check' || each.state === 'again') ?? [],
  );
  const coming = $derived(now?.turns.filter((each) => each.state === 'to_come') ?? []);

  whenever(
    () => live,
    (opened) => opened.start(),
  );
</script>

<svelte:head><title>{now ? `${now.title} · ` : ''}Projector · Nabrel</title></svelte:head>

<main class="flex h-full flex-col gap-4 overflow-auto p-6 text-xl lg:p-10 lg:text-2xl">
  {#if !now}
    <Awaited of={live.asking} says="This class could not be opened" />
  {:else}
    <header class="flex flex-wrap items-baseline justify-between gap-x-6">
      <h1 class="font-semibold">{now.title}</h1>
      <a class="text-base underline no-print" href={p('/class/:id', { params: { id } })}>To the class</a>
    </header>
    {#if live.away}<p role="status">Nabrel does not answer: this is what was last known.</p>{/if}
    {#if !now.begun}
      <p class="text-3xl lg:text-5xl">We begin soon.</p>
      {#if now.phases[0]}<p>First: {now.phases[0].steps.join(', ').toLowerCase()}.</p>{/if}
    {:else if live.over}
      <p class="text-3xl lg:text-5xl">Done. Look again in 20 to 30 minutes.</p>
      <p>If skin stings, swells or a rash comes: take it off, and ask a pharmacist or clinician.</p>
    {:else if part}
      <section class="flex flex-wrap items-end justify-between gap-x-8 gap-y-2" aria-label="Now">
        <div>
          <p class="text-4xl font-bold lg:text-6xl">{PHASES[part.phase]}</p>
          <p class="text-2xl lg:text-4xl">{part.phase === 'break' ? '' : part.steps.join(', ')}</p>
        </div>
        <p class="text-5xl font-bold tabular-nums lg:text-8xl" role="timer" aria-label="Time left">
          {live.left}
        </p>
      </section>
      {#if now.late_s >= 60}<p role="status">{spoken(now.late_s)} behind.</p>{/if}
      {#if now.signs.length}
        <ul class="flex flex-col gap-1">
          {#each now.signs as says (says)}<li class="border-t border-line pt-1">{says}</li>{/each}
        </ul>
      {/if}
      {#if now.turns.length}
        <div class="grid gap-4 md:grid-cols-3">
          {#each [{ words: 'At work', rows: working }, { words: 'Wait for a check', rows: waiting }, { words: 'Next', rows: coming }] as list (list.words)}
            <section aria-label={list.words}>
              <h2 class="font-semibold">{list.words}</h2>
              <ul>
                {#each list.rows as each (each.student)}
                  <li class="flex justify-between gap-4 border-t border-line">
                    <span class="min-w-0 break-words">{each.student}</span><span class="shrink-0"
                      >station {each.station}</span
                    >
                  </li>
                {:else}<li class="text-quiet">Nobody</li>{/each}
              </ul>
            </section>
          {/each}
        </div>
      {/if}
      {#if next}
        <p class="mt-auto text-quiet">
          Then: {PHASES[next.phase].toLowerCase()}{next.phase === 'break'
            ? ''
            : `, ${next.steps.join(', ').toLowerCase()}`}
        </p>
      {/if}
    {/if}
  {/if}
</main>
