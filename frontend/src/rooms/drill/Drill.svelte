<script lang="ts">
  import { searchParams } from 'sv-router';
  import { onMount } from 'svelte';
  import Choice from '../../parts/Choice.svelte';
  import RoomBar from '../../parts/RoomBar.svelte';
  import { shortcuts } from '../../parts/shortcuts.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import { DrillState } from './drill.svelte';
  import Follows from './Follows.svelte';
  import Question from './Question.svelte';

  const drill = new DrillState();
  const LEVELS = [0, 1, 2, 3, 4, 5].map((level) => ({
    id: String(level),
    words: level ? `Level ${level}` : 'The level that fits',
  }));
  const kinds = $derived([
    { id: '', words: 'Every kind' },
    ...drill.kinds.map((each) => ({ id: each.id as string, words: each.words })),
  ]);

  onMount(() => {
    void words.load();
    void drill.load(searchParams.get('kind')?.toString() ?? null);
    return shortcuts.declare([
      ...['a', 'b', 'c', 'd'].map((letter, place) => ({
        keys: letter,
        does: `Choose ${letter.toUpperCase()}`,
        run: () => {
          const choice = drill.asked?.choices[place];
          if (choice && !drill.marked) drill.choice = choice.id;
        },
      })),
      {
        keys: 'Enter',
        does: 'Answer, then the next one',
        run: () => void (drill.marked ? drill.next() : drill.answer()),
      },
      {
        keys: 'PageDown',
        does: 'The same, by a foot pedal',
        run: () => void (drill.marked ? drill.next() : drill.answer()),
      },
    ]);
  });
</script>

<svelte:head><title>Drill · Nabrel</title></svelte:head>

<div class="flex h-full flex-col">
  <RoomBar room="drill">
    <h1 class="font-semibold">Drill</h1>
    <Choice
      label="Kind"
      value={drill.kind}
      options={kinds}
      onchoose={(kind) => {
        if (kind) searchParams.set('kind', kind, { replace: true });
        else searchParams.delete('kind', undefined, { replace: true });
        void drill.choose(kind as typeof drill.kind, drill.level);
      }}
    />
    <Choice
      label="Level"
      value={String(drill.level)}
      options={LEVELS}
      onchoose={(level) => void drill.choose(drill.kind, Number(level))}
    />
    <span class="label ml-auto" role="status"
      >{drill.answered
        ? `${drill.answered} answered, ${Math.round((100 * drill.points) / drill.answered)} % right. ${drill.asked?.fits ?? ''}`
        : 'Nothing answered yet'}</span
    >
  </RoomBar>
  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <main class="min-h-0 grow overflow-auto p-3" tabindex="0">
    <div class="mx-auto flex max-w-4xl flex-col gap-3">
      {#if drill.failed}
        <p class="panel p-3" role="alert">
          {drill.failed} <button class="btn" onclick={() => void drill.next()}>Try again</button>
        </p>
      {/if}
      {#if drill.asked}
        {#key drill.asked.id}<Question {drill} asked={drill.asked} />{/key}
        {#if drill.marked}<Follows {drill} asked={drill.asked} marked={drill.marked} />{/if}
        <div class="flex flex-wrap items-center gap-2">
          {#if drill.marked}
            <button
              class="btn btn-main h-11 px-5 text-base"
              disabled={drill.busy}
              onclick={() => void drill.next()}>Next</button
            >
          {:else}
            <button
              class="btn btn-main h-11 px-5 text-base"
              disabled={!drill.ready || drill.busy}
              onclick={() => void drill.answer()}>Answer</button
            >
            <button class="btn h-11" disabled={drill.busy} onclick={() => void drill.next()}
              >Another one</button
            >
          {/if}
          <span class="label">Enter answers, then goes on; letters choose. Nothing here is kept.</span>
        </div>
      {:else if !drill.failed}
        <p class="panel p-3" role="status">Making an exercise…</p>
      {/if}
    </div>
  </main>
</div>
