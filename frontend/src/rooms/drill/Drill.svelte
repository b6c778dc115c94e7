<script lang="ts">
  import { searchParams } from 'sv-router';
  import { onMount } from 'svelte';
  import RoomBar from '../../parts/RoomBar.svelte';
  import { shortcuts } from '../../parts/shortcuts.svelte';
  import Begin from './Begin.svelte';
  import { DrillState } from './drill.svelte';
  import DrillTabs from './DrillTabs.svelte';
  import Followed from './Followed.svelte';
  import Follows from './Follows.svelte';
  import LookedBack from './LookedBack.svelte';
  import Question from './Question.svelte';
  import Awaited from '../../parts/Awaited.svelte';
  import LoadFailed from '../../parts/LoadFailed.svelte';
  import Waiting from '../../parts/Waiting.svelte';

  const drill = new DrillState();
  /** The next exercise, as something that is tried again. */
  const next = {
    failed: '',
    get loading() {
      return drill.busy;
    },
    load: () => drill.next(),
  };
  const test = $derived(drill.session?.test ?? false);

  onMount(() => {
    void drill.opening.load();
    const clock = setInterval(() => drill.tick(), 1000);
    const undo = shortcuts.declare([
      ...['a', 'b', 'c', 'd'].map((letter, place) => ({
        keys: letter,
        does: `Choose ${letter.toUpperCase()}`,
        run: () => {
          const choice = drill.asked?.choices[place];
          if (choice && !drill.marked) drill.choice = choice.id;
        },
      })),
      { keys: 'Enter', does: 'Answer, then the next one', run: () => drill.go() },
      { keys: 'PageDown', does: 'The same, by a foot pedal', run: () => drill.go() },
    ]);
    return () => {
      clearInterval(clock);
      undo();
    };
  });

  function left(seconds: number): string {
    return seconds >= 60 ? `${Math.ceil(seconds / 60)} min left` : `${Math.ceil(seconds)} s left`;
  }
</script>

<svelte:head><title>Drill · Nabrel</title></svelte:head>

<div class="flex h-full flex-col">
  <RoomBar room="drill">
    <h1 class="font-semibold">Drill</h1>
    {#if drill.session}
      <span class="min-w-0 truncate"
        >{drill.session.student?.name ?? 'Nothing is kept'}{drill.session.title
          ? ` · ${drill.session.title}`
          : ''}</span
      >
      <span class="label ml-auto whitespace-nowrap" role="status"
        >{drill.of ? `${drill.answered} of ${drill.of} answered` : `${drill.answered} answered`}</span
      >
      {#if drill.left !== null}<span class="label whitespace-nowrap tabular-nums"
          >{drill.over ? 'time is up' : left(drill.left)}</span
        >{/if}
      <button class="btn" disabled={drill.busy} onclick={() => void drill.end()}
        >{test ? 'Hand in' : 'End'}</button
      >
    {:else}<DrillTabs at="practise" />{/if}
  </RoomBar>
  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <main class="min-h-0 grow overflow-auto p-3" tabindex="0">
    <div class="mx-auto flex max-w-4xl flex-col gap-3">
      {#if drill.missed}<LoadFailed of={next} says="No exercise came" />{/if}
      {#if drill.recap}
        <LookedBack {drill} recap={drill.recap} />
      {:else if drill.session && drill.asked}
        {#key drill.asked.id}<Question {drill} asked={drill.asked} />{/key}
        <div class="flex flex-wrap items-center gap-2">
          {#if drill.marked}
            <button
              class="btn btn-main h-touch px-5 text-base"
              disabled={drill.busy}
              onclick={() => void drill.next()}>{drill.over ? 'To the end' : 'Next'}</button
            >
          {:else}
            <button
              class="btn btn-main h-touch px-5 text-base"
              disabled={!drill.ready || drill.busy}
              onclick={() => void drill.answer()}>Answer</button
            >
            {#if !test}<button class="btn h-touch" disabled={drill.busy} onclick={() => void drill.next()}
                >Another one</button
              >{/if}
          {/if}
          <span class="label"
            >{test
              ? 'A test: what is right is shown at the end.'
              : 'Enter answers, then goes on; letters choose.'}</span
          >
        </div>
        {#if drill.marked}
          <Follows {drill} asked={drill.asked} marked={drill.marked} />
          {#if drill.follows}<Followed follows={drill.follows} />{/if}
        {/if}
      {:else if drill.session}
        {#if !drill.missed}<Waiting for="Making an exercise…" />{/if}
      {:else if drill.all}
        <Begin
          {drill}
          all={drill.all}
          kind={searchParams.get('kind')?.toString() ?? ''}
          student={searchParams.get('student')?.toString() ?? ''}
          code={searchParams.get('code')?.toString() ?? ''}
        />
      {:else}
        <Awaited of={drill.opening} says="The exercises could not be loaded" />
      {/if}
    </div>
  </main>
</div>
