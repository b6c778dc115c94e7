<script lang="ts">
  import { api, ask, type Mention, type Schemas } from '../../api/client';
  import { notSure } from '../../parts/mentions';
  import Mentions from '../../parts/Mentions.svelte';
  import Modal from '../../parts/Modal.svelte';
  import { notices } from '../../parts/notices.svelte';
  import RoomBar from '../../parts/RoomBar.svelte';
  import Field from '../../parts/Field.svelte';
  import { tried } from '../../parts/tried';
  import { navigate, p, route } from '../../router';
  import DrillTabs from './DrillTabs.svelte';
  import JudgementMap from './JudgementMap.svelte';
  import Awaited from '../../parts/Awaited.svelte';
  import { keyed } from '../../parts/resource.svelte';

  /** One student's practice: the map, what is put forward, the export, and erasing. */
  const id = $derived(route.params.id ?? '');
  let progress = $state.raw<Schemas['PracticeWire'] | null>(null);
  const opening = keyed(
    () => id,
    (of) =>
      Promise.all([
        ask(api.GET('/api/drill')),
        ask(api.GET('/api/drill/students/{id}', { params: { path: { id: of } } })),
      ]),
    ([, found]) => ([progress, name, group] = [found, found.name, found.group]),
  );
  const kinds = $derived(opening.value?.[0].kinds ?? []);
  let erasing = $state(false);
  let mentions = $state.raw<Mention[]>([]);
  let leave = $state<string[]>([]);
  let changing = $state(false);
  let name = $state('');
  let group = $state('');
  let busy = $state(false);

  async function change(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    const found = await tried(
      ask(api.PUT('/api/drill/students/{id}', { params: { path: { id } }, body: { name, group } })),
    );
    busy = false;
    if (!found) return;
    progress = found;
    changing = false;
  }

  async function askToErase() {
    const found = await tried(
      ask(api.GET('/api/drill/students/{id}/mentions', { params: { path: { id } } })),
    );
    if (!found) return;
    mentions = found.mentions;
    leave = notSure(mentions);
    erasing = true;
  }

  async function erase() {
    busy = true;
    const params = { path: { id }, query: { leave } };
    const gone = await tried(ask(api.DELETE('/api/drill/students/{id}', { params })));
    busy = false;
    if (!gone) return;
    notices.say(
      gone.finished
        ? 'Erased, from every backup too.'
        : 'Erased; what is left in a file goes at the next start.',
    );
    await navigate('/drill/students');
  }
</script>

<svelte:head><title>{progress ? `${progress.name} · ` : ''}Drill · Nabrel</title></svelte:head>

<div class="flex h-full flex-col">
  <RoomBar room="drill">
    <h1 class="min-w-0 truncate font-semibold">{progress?.name ?? 'Student'}</h1>
    {#if progress?.group}<span class="label">{progress.group}</span>{/if}
    <DrillTabs at="students" />
    {#if progress}
      <span class="ml-auto"></span>
      <a class="btn" href="/api/drill/students/{id}/file" download>Export everything</a>
      <button class="btn" onclick={() => (changing = true)}>Change name or group</button>
      <button class="btn" onclick={askToErase}>Erase</button>
      <a class="btn btn-main" href={p('/drill', { search: { student: id } })}>Practise</a>
    {/if}
  </RoomBar>
  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <main class="min-h-0 grow overflow-auto p-2" tabindex="0">
    {#if opening.failed || !progress}
      <Awaited of={opening} says="This student could not be opened">
        {#snippet leads()}<a class="btn" href={p('/drill/students')}>To the students</a>{/snippet}
      </Awaited>
    {:else}<JudgementMap {progress} {kinds} />{/if}
  </main>
</div>

<Modal bind:open={changing} title="Name and group" wide="34">
  <form class="flex flex-wrap items-end gap-2" onsubmit={change}>
    <Field class="h-control-l" required label="Name" bind:value={name} maxlength={60} />
    <Field class="h-control-l" label="Group" bind:value={group} maxlength={120} />
    <button class="btn btn-main" disabled={busy || !name.trim()}>Keep</button>
  </form>
</Modal>

<Modal bind:open={erasing} title="Erase {progress?.name ?? ''} for good?" wide="34">
  {#snippet about()}
    Every answer, what is known and the name all go, from every backup too, and cannot be brought back{progress?.classes
      ? `; so does the name in ${progress.classes === 1 ? 'a class' : `${progress.classes} classes`}`
      : ''}.
  {/snippet}
  {#snippet actions()}
    <a class="btn" href="/api/drill/students/{id}/file" download>Export everything first</a>
    <button class="btn btn-main" disabled={busy} onclick={erase}>Erase for good</button>
  {/snippet}
  <Mentions {mentions} bind:leave />
  <p class="label">Practice is personal: it goes when the student asks.</p>
</Modal>
