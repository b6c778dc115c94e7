<script lang="ts">
  import { untrack } from 'svelte';
  import { api, ask, type Schemas } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import Field from '../../parts/Field.svelte';
  import { tried } from '../../parts/tried';
  import { p } from '../../router';
  import type { DrillState, Kind } from './drill.svelte';
  import JudgementMap from './JudgementMap.svelte';
  import { keyed } from '../../parts/resource.svelte';
  import LoadFailed from '../../parts/LoadFailed.svelte';

  /** Before a session: who practises, for how long, what, or the set that a code stands for. */
  interface Props {
    drill: DrillState;
    all: Schemas['DrillsWire'];
    /** What the address asks for. */
    kind: string;
    student: string;
    code: string;
  }
  let { drill, all, kind: wanted, student: named, code: given }: Props = $props();
  const first = untrack(() => ({
    kind: (all.kinds.find((each) => each.id === wanted)?.id ?? '') as Kind | '',
    student: all.own?.id ?? all.students.find((each) => each.id === named)?.id ?? '',
    code: given,
  }));
  let kind = $state<Kind | ''>(first.kind);
  let student = $state(first.student);
  let code = $state(first.code);
  let graded = $state(untrack(() => all.own !== null || first.student !== ''));
  let minutes = $state(10);
  let level = $state(0);
  let set = $state.raw<Schemas['SetFoundWire'] | null>(null);
  const kinds = $derived([
    { id: '' as Kind | '', words: 'Every kind, mixed' },
    ...all.kinds.map((each) => ({ id: each.id as Kind | '', words: each.words })),
  ]);
  const LEVELS = [0, 1, 2, 3, 4, 5].map((each) => ({
    id: String(each),
    words: each ? `Level ${each}` : 'The level that fits',
  }));
  const people = $derived([
    { id: '', words: 'Nobody: nothing is kept' },
    ...all.students.map((each) => ({ id: each.id, words: each.name })),
  ]);
  const stored = $derived(all.own ? graded : student !== '');
  const whose = $derived(all.own ? (graded ? all.own.id : '') : student);

  const practice = keyed(
    () => whose,
    async (id) => (id ? ask(api.GET('/api/drill/students/{id}', { params: { path: { id } } })) : null),
  );
  const progress = $derived(practice.value);
  let finding = $state(false);

  async function find() {
    finding = true;
    set = code.trim()
      ? await tried(ask(api.GET('/api/drill/codes/{id}', { params: { path: { id: code.trim() } } })))
      : null;
    finding = false;
  }
  if (first.code) void find();

  const begin = () =>
    void drill.begin({
      student: whose,
      graded: stored,
      minutes: minutes || null,
      kind,
      level,
      code: set?.code ?? '',
    });
</script>

<section class="panel flex flex-col gap-3 p-4" aria-label="Begin">
  <div class="flex flex-wrap items-center gap-2">
    {#if all.own}
      <span>You are <b>{all.own.name}</b>.</span>
      <label class="flex min-h-control-l items-center gap-2"
        ><input type="checkbox" class="size-5 accent-[var(--accent)]" bind:checked={graded} /> Keep what I answer</label
      >
    {:else}
      <span class="label">Who practises</span>
      <Choice label="Who practises" value={student} options={people} onchoose={(id) => (student = id)} />
      {#if !all.students.length}<a class="underline" href={p('/drill/students')}>Add your students</a>{/if}
    {/if}
  </div>
  {#if set}
    <p>
      <b>{set.title}</b>: {set.says}{set.minutes ? `, ${set.minutes} minutes` : ''}. {set.test
        ? 'A test: everybody gets the same, each question counts once, and what is right is shown at the end.'
        : 'Each answer is shown as you go.'}
    </p>
    <div class="flex flex-wrap gap-2">
      <button
        class="btn btn-main h-touch px-5 text-base"
        disabled={drill.busy || (set.test && !stored)}
        onclick={begin}>Begin</button
      >
      <button class="btn h-touch" onclick={() => ((set = null), (code = ''))}>Practise freely instead</button>
      {#if set.test && !stored}<span class="label self-center">Say first who takes it.</span>{/if}
    </div>
  {:else}
    <div class="flex flex-wrap items-center gap-2" role="radiogroup" aria-label="How long">
      <span class="label">How long</span>
      {#each [...all.minutes, 0] as each (each)}
        <button
          class="btn h-touch px-4 {minutes === each ? 'border-accent bg-accent-soft font-semibold' : ''}"
          role="radio"
          aria-checked={minutes === each}
          onclick={() => (minutes = each)}>{each ? `${each} minutes` : 'No end'}</button
        >
      {/each}
    </div>
    <div class="flex flex-wrap items-center gap-2">
      <span class="label">What</span>
      <Choice label="Kind" value={kind} options={kinds} onchoose={(each) => (kind = each)} />
      <Choice
        label="Level"
        value={String(level)}
        options={LEVELS}
        onchoose={(each) => (level = Number(each))}
      />
    </div>
    <div class="flex flex-wrap items-end gap-3">
      <button class="btn btn-main h-touch px-5 text-base" disabled={drill.busy || finding} onclick={begin}
        >Begin</button
      >
      <form
        class="flex items-end gap-2 sm:ml-auto"
        onsubmit={(event) => {
          event.preventDefault();
          void find();
        }}
      >
        <Field class="h-control-l" required label="Code from your educator" bind:value={code} />
        <button class="btn" disabled={!code.trim()}>Find the set</button>
      </form>
    </div>
  {/if}
</section>
{#if practice.failed}<LoadFailed of={practice} says="What is known of them did not come" />
{:else if progress}<JudgementMap {progress} kinds={all.kinds} />
{:else}
  <p class="label">
    One question at a time, made from the rule book and the film model: which corrector, how little, how dark
    beneath, where not, in which order, and why. What would follow from an answer is shown after it.
  </p>
{/if}
