<script lang="ts">
  import { Tabs } from 'bits-ui';
  import { searchParams } from 'sv-router';
  import Modal from '../../parts/Modal.svelte';
  import RoomBar from '../../parts/RoomBar.svelte';
  import { navigate, p, route } from '../../router';
  import BlocksPanel from './BlocksPanel.svelte';
  import { ClassState } from './class.svelte';
  import DutiesPanel from './DutiesPanel.svelte';
  import FacesPanel from './FacesPanel.svelte';
  import HandoutsDialog from './HandoutsDialog.svelte';
  import { spoken } from './hours';
  import Lanes from './Lanes.svelte';
  import RoomPanel from './RoomPanel.svelte';
  import SkinsPanel from './SkinsPanel.svelte';
  import StudentsPanel from './StudentsPanel.svelte';
  import TakesPanel from './TakesPanel.svelte';
  import Awaited from '../../parts/Awaited.svelte';
  import { whenever } from '../../parts/whenever.svelte';

  const id = $derived(route.params.id ?? '');
  const own = $derived(new ClassState(id));
  const found = $derived(own.found);
  let handouts = $state(false);
  let holding = $state(false);
  let removing = $state(false);
  const TABS = [
    { id: 'students', words: 'Students' },
    { id: 'blocks', words: 'Blocks' },
    { id: 'takes', words: 'Weigh-out' },
    { id: 'duties', words: 'To do' },
    { id: 'faces', words: 'Faces' },
    { id: 'skins', words: 'If your skin …' },
  ];
  const tab = $derived(TABS.find((each) => each.id === searchParams.get('show'))?.id ?? 'students');
  const fixed = $derived(!!found && (found.held || own.busy));

  whenever(
    () => own.opening,
    (opening) => void opening.load(),
  );

  async function remove() {
    if (await own.remove()) await navigate('/class');
  }
</script>

<svelte:head><title>{found ? `${found.room.title} · ` : ''}Class · Nabrel</title></svelte:head>

<div class="flex h-full flex-col">
  <RoomBar room="class">
    <a class="btn" href={p('/class')}>All classes</a>
    {#if found}
      <h1 class="min-w-24 truncate font-semibold max-sm:shrink-0" title={found.room.title}>
        {found.room.title}
      </h1>
      <span class="label whitespace-nowrap">{found.when}</span>
      <span class="ml-auto"></span>
      <button class="btn" onclick={() => (handouts = true)}>Handouts…</button>
      <a class="btn" href="/api/classes/{id}/calendar" download>Calendar</a>
      <a class="btn" href={p('/board/:id', { params: { id } })}>Projector</a>
      {#if found.held}
        <a class="btn btn-main" href={p('/recap/:id', { params: { id } })}>Recap</a>
      {:else}
        <a class="btn btn-main" href={p('/round/:id', { params: { id } })}>Teach</a>
      {/if}
    {/if}
  </RoomBar>
  {#if own.opening.failed || !found}
    <Awaited
      of={own.opening}
      waits="Planning every face and the clock…"
      says="This class could not be opened"
      room
    >
      {#snippet leads()}<a class="btn" href={p('/class')}>All classes</a>{/snippet}
    </Awaited>
  {:else}
    <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
    <main class="flex min-h-0 grow flex-col gap-2 overflow-auto p-2" tabindex="0">
      <div class="grid items-start gap-2 lg:grid-cols-[17rem_minmax(0,1fr)]">
        <RoomPanel {own} {found} />
        <div class="flex min-w-0 flex-col gap-2">
          <section class="panel min-w-0 p-2" aria-label="The clock">
            <p class="flex flex-wrap items-baseline gap-x-3 px-1 pb-1">
              <b>{spoken(found.length_s)}</b>
              {#if found.lesson.too_long_s}
                <b role="status">{spoken(found.lesson.too_long_s)} too long for the room.</b>
              {:else if found.room_s !== null}
                <span class="label">{spoken(found.room_s - found.length_s)} before the room must be left</span
                >
              {/if}
              <span class="label"
                >{found.lesson.proven
                  ? 'Every block of practice is as short as it can be.'
                  : 'Blocks are in a good order; a shorter one may exist.'}</span
              >
            </p>
            {#if own.refused}<p class="mb-1 border-l-4 border-stop bg-well px-2 py-1" role="alert">
                {own.refused}
              </p>{/if}
            {#if found.shorter.length}
              <ul class="mb-1 px-1">
                {#each found.shorter as way (way.says)}
                  <li class="flex flex-wrap items-baseline gap-x-2">
                    <span>{way.says} <span class="label">{way.costs}</span></span>
                    {#if !fixed && (way.check_s ?? way.stations ?? way.educators ?? way.break_after_min ?? way.half)}
                      <button
                        class="btn h-control-xs px-1.5"
                        onclick={() => {
                          const { check_s, stations, educators, break_after_min, half } = way;
                          const change = { check_s, stations, educators, break_after_min, half };
                          void own.change(
                            Object.fromEntries(Object.entries(change).filter(([, value]) => value !== null)),
                          );
                        }}>Do this</button
                      >
                    {/if}
                  </li>
                {/each}
              </ul>
            {/if}
            <Lanes {found} {fixed} onpin={(step, at) => void own.pin(step, at)} />
          </section>
          <Tabs.Root
            value={tab}
            onValueChange={(show) => searchParams.set('show', show, { replace: true })}
            class="flex min-w-0 flex-col gap-2"
          >
            <Tabs.List class="flex flex-wrap gap-1" aria-label="What the class is made of">
              {#each TABS as each (each.id)}
                <Tabs.Trigger
                  value={each.id}
                  class="btn data-[state=active]:border-accent data-[state=active]:bg-accent-soft"
                  >{each.words}</Tabs.Trigger
                >
              {/each}
            </Tabs.List>
            <Tabs.Content value="students"><StudentsPanel {own} {found} {fixed} /></Tabs.Content>
            <Tabs.Content value="blocks"><BlocksPanel {own} {found} {fixed} /></Tabs.Content>
            <Tabs.Content value="takes"><TakesPanel {found} /></Tabs.Content>
            <Tabs.Content value="duties"><DutiesPanel {found} /></Tabs.Content>
            <Tabs.Content value="faces"><FacesPanel {found} /></Tabs.Content>
            <Tabs.Content value="skins"><SkinsPanel {own} {found} {fixed} /></Tabs.Content>
          </Tabs.Root>
        </div>
      </div>
      <div class="flex flex-wrap gap-2">
        <a class="btn" href="/api/classes/{id}/file" download>Export class</a>
        {#if !found.held}<button class="btn" disabled={own.busy} onclick={() => (holding = true)}
            >Mark as held…</button
          >{/if}
        <button class="btn" onclick={() => (removing = true)}>Delete class…</button>
      </div>
    </main>
  {/if}
</div>

{#if found}
  <HandoutsDialog bind:open={handouts} {found} />
  <Modal bind:open={holding} title="Was this class held?" wide="34">
    {#snippet actions()}
      <button
        class="btn btn-main"
        disabled={own.busy}
        onclick={async () => {
          await own.hold();
          holding = false;
        }}>It was held</button
      >
    {/snippet}
    <p>
      What was weighed out is taken from the packs of the shelf: {found.lesson.weigh_out.length === 1
        ? '1 item'
        : `${found.lesson.weigh_out.length} items`}. The class can then no longer be changed.
    </p>
  </Modal>
  <Modal bind:open={removing} title="Delete this class?" wide="34">
    {#snippet actions()}
      <button class="btn btn-main" onclick={() => void remove()}>Delete it</button>
    {/snippet}
    <p>
      Its students, checks and questions go with it. What it took from the packs stays taken; the plan stays.
    </p>
  </Modal>
{/if}
