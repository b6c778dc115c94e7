<script lang="ts">
  import { onMount } from 'svelte';
  import { api, ask, type Schemas } from '../../api/client';
  import FileButton from '../../parts/FileButton.svelte';
  import Modal from '../../parts/Modal.svelte';
  import { notices } from '../../parts/notices.svelte';
  import RoomBar from '../../parts/RoomBar.svelte';
  import { sent } from '../../parts/sending';
  import { tried } from '../../parts/tried';
  import { words } from '../../parts/vocabulary.svelte';
  import { p } from '../../router';
  import DrillTabs from './DrillTabs.svelte';
  import SetDialog from './SetDialog.svelte';
  import Awaited from '../../parts/Awaited.svelte';
  import { Resource } from '../../parts/resource.svelte';

  /** Sets made by hand, and tests: with their code, their paper, and who did how well. */
  const opening = new Resource(() =>
    Promise.all([ask(api.GET('/api/drill')), ask(api.GET('/api/drill/sets')), words.load()]),
  );
  const all = $derived(opening.value?.[0] ?? null);
  const lists = $derived(opening.value?.[1] ?? null);
  let making = $state(false);
  let removing = $state.raw<Schemas['DrillSetWire'] | null>(null);
  const percent = (share: number) => `${Math.round(100 * share)} %`;
  const spaced = (code: string) => `${code.slice(0, 3)} ${code.slice(3)}`;

  async function close(set: Schemas['DrillSetWire']) {
    const { title, parts, same_for_all, minutes, seed } = set;
    const body = {
      title,
      parts,
      same_for_all,
      minutes,
      seed,
      faces: set.faces.map((each) => each.id),
      closed: !set.closed,
    };
    await tried(ask(api.PUT('/api/drill/sets/{id}', { params: { path: { id: set.id } }, body })));
    await opening.load();
  }

  async function bring(file: File) {
    const body = await sent(file, 'application/json');
    await tried(ask(api.POST('/api/drill/sets/file', body)));
    await opening.load();
  }

  async function remove() {
    if (!removing) return;
    await tried(ask(api.DELETE('/api/drill/sets/{id}', { params: { path: { id: removing.id } } })));
    removing = null;
    await opening.load();
  }

  async function copy(set: Schemas['DrillSetWire']) {
    const link = new URL(p('/drill', { search: { code: set.code } }), location.href).href;
    try {
      await navigator.clipboard.writeText(link);
      notices.say('The link is copied.');
    } catch {
      notices.say(link);
    }
  }

  async function again(set: Schemas['DrillSetWire'], student: { id: string; name: string }) {
    const params = { path: { id: set.id } };
    const body = { student: student.id };
    if (await tried(ask(api.POST('/api/drill/sets/{id}/tries', { params, body })))) {
      notices.say(`${student.name} may try it again, with other exercises.`);
      await opening.load();
    }
  }

  onMount(() => void opening.load());
</script>

<svelte:head><title>Sets and tests · Drill · Nabrel</title></svelte:head>

<div class="flex h-full flex-col">
  <RoomBar room="drill">
    <h1 class="font-semibold">Sets and tests</h1>
    <DrillTabs at="sets" />
    <span class="ml-auto"></span>
    <FileButton words="Import" label="Set file" accept=".json,application/json" onfile={bring} />
    <button class="btn btn-main" disabled={!all} onclick={() => (making = true)}>New set</button>
  </RoomBar>
  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <main class="min-h-0 grow overflow-auto p-2" tabindex="0">
    {#if opening.failed || !lists}
      <Awaited of={opening} says="The sets could not be loaded" />
    {:else if !lists.sets.length}
      <section class="panel max-w-2xl p-4">
        <h2 class="heading">No sets yet</h2>
        <p class="mt-1">
          Choose kinds, levels and faces yourself, and give students the link or the code. As a test everybody
          gets the same exercises, each counts once, and a paper with the answers at the end can be printed.
        </p>
      </section>
    {:else}
      <ul class="flex max-w-5xl flex-col gap-2">
        {#each lists.sets as set (set.id)}
          <li class="panel p-3">
            <div class="flex flex-wrap items-baseline gap-x-3">
              <h2 class="min-w-0 text-base font-semibold break-words">{set.title}</h2>
              <span class="font-mono text-lg tracking-wider" title="The code of this set"
                >{spaced(set.code)}</span
              >
              <span class="label"
                >{set.same_for_all ? 'test, the same for all' : 'everybody gets their own'}, {set.length === 1
                  ? '1 exercise'
                  : `${set.length} exercises`}{set.minutes ? `, ${set.minutes} min` : ''}{set.closed
                  ? ', closed'
                  : ''}</span
              >
            </div>
            <p>{set.says}.</p>
            {#if set.faces.length}<p class="label">
                On the faces of {set.faces.map((each) => each.name).join(', ')}.
              </p>{/if}
            {#if set.results.length}
              <ul class="mt-1 flex flex-wrap gap-x-4 gap-y-1">
                {#each set.results as each (each.student.id)}
                  <li class="label flex items-center gap-2">
                    {each.student.name}
                    {percent(each.score)} of {each.answered}
                    <button
                      class="min-h-6 underline"
                      aria-label="Allow another try: {each.student.name}"
                      title="With other exercises; what was answered stays with the student"
                      onclick={() => void again(set, each.student)}>Allow another try</button
                    >
                  </li>
                {/each}
              </ul>
            {:else}<p class="label">Nobody has answered it yet.</p>{/if}
            <div class="mt-2 flex flex-wrap gap-2">
              <button class="btn" onclick={() => void copy(set)}>Copy the link</button>
              <a class="btn" href={p('/drill', { search: { code: set.code } })}>Try it</a>
              <a class="btn" href="/api/drill/sets/{set.id}/paper" download>Print as a paper (PDF)</a>
              <a class="btn" href="/api/drill/sets/{set.id}/file" download>Export</a>
              <button class="btn" onclick={() => void close(set)}
                >{set.closed ? 'Open it again' : 'Close it'}</button
              >
              <button class="btn" onclick={() => (removing = set)}>Remove</button>
            </div>
          </li>
        {/each}
      </ul>
    {/if}
  </main>
</div>

{#if all && lists}<SetDialog
    bind:open={making}
    {all}
    faces={lists.faces}
    onmade={async () => void (await opening.load())}
  />{/if}

<Modal
  bind:open={
    () => removing !== null,
    (shown) => {
      if (!shown) removing = null;
    }
  }
  title="Remove {removing?.title ?? ''}?"
  wide="34"
>
  {#snippet about()}Its code leads nowhere afterwards. What was answered in it stays with the students.{/snippet}
  {#snippet actions()}<button class="btn btn-main" onclick={() => void remove()}>Remove</button>{/snippet}
  <span></span>
</Modal>
