<script lang="ts">
  import { onMount } from 'svelte';
  import { Tabs } from 'bits-ui';
  import Layers from '@lucide/svelte/icons/layers';
  import Redo2 from '@lucide/svelte/icons/redo-2';
  import Undo2 from '@lucide/svelte/icons/undo-2';
  import { api, ask, type Condition, type Zone } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import Modal from '../../parts/Modal.svelte';
  import { inHand } from '../../parts/in-hand.svelte';
  import RoomBar from '../../parts/RoomBar.svelte';
  import { notices } from '../../parts/notices.svelte';
  import { shortcuts } from '../../parts/shortcuts.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import { navigate, p, route } from '../../router';
  import ColourPanel from './ColourPanel.svelte';
  import MeasuresPanel from './MeasuresPanel.svelte';
  import PaintMap from './PaintMap.svelte';
  import Palette from './Palette.svelte';
  import PersonPanel from './PersonPanel.svelte';
  import StrokeMap from './StrokeMap.svelte';
  import WishesPanel from './WishesPanel.svelte';
  import { ReadState } from './read.svelte';
  import Awaited from '../../parts/Awaited.svelte';
  import { whenever } from '../../parts/whenever.svelte';

  const id = $derived(route.params.id ?? '');
  const read = $derived(new ReadState(id));
  $effect(() => {
    const face = read.face;
    if (face) inHand.takeSitter({ id, name: face.nickname }, face.sequence_ids[0] ?? null);
  });
  const TABS = [
    { id: 'paint', words: 'Conditions' },
    { id: 'measures', words: 'Measures and placements' },
    { id: 'colour', words: 'Colour and probe' },
    { id: 'wishes', words: 'Wishes' },
    { id: 'sitter', words: 'Sitter' },
  ];
  let tab = $state('paint');
  let layer = $state('all');
  let pointed = $state<Zone | null>(null);
  let stroke = $state<string | null>(null);
  let kit = $state('');
  let kits = $state.raw<{ id: string; words: string }[]>([]);
  const shown = $derived<Condition[]>(
    layer === 'brush'
      ? [read.painting.brush.condition]
      : (words.all?.condition_groups ?? [])
          .filter((group) => layer === 'all' || layer === group.words)
          .flatMap((group) => group.conditions),
  );
  const here = $derived(
    pointed
      ? Object.entries(read.painting.conditions(pointed)).map(
          ([condition, severity]) => `${words.condition(condition)} ${severity}`,
        )
      : [],
  );
  const reading = $derived(read.face?.zones.find((zone) => zone.zone === pointed));

  async function plan() {
    try {
      const bench = await ask(
        api.POST('/api/sitters/{id}/sequences', {
          params: { path: { id }, query: kit ? { kit } : {} },
          body: {},
        }),
      );
      await navigate('/plans/:id', { params: { id: bench.id } });
    } catch (error) {
      notices.refuse(error);
    }
  }

  const severity = (rank: number) => ({
    keys: String(rank),
    does: rank ? `Brush: severity ${rank}` : 'Brush: take the condition away',
    run: () => (read.painting.brush = { ...read.painting.brush, severity: rank, erase: false }),
  });

  onMount(() => {
    ask(api.GET('/api/kit'))
      .then((found) => (kits = found.kits.map((each) => ({ id: each.id, words: each.name }))))
      .catch((error: unknown) => notices.refuse(error));
    return shortcuts.declare([
      { keys: 'Ctrl+Z', does: 'Undo', run: () => read.undo() },
      { keys: 'Ctrl+Y', does: 'Redo', run: () => read.redo() },
      severity(1),
      severity(2),
      severity(3),
      severity(0),
      {
        keys: 'e',
        does: 'Brush: erase a zone',
        run: () => (read.painting.brush = { ...read.painting.brush, erase: !read.painting.brush.erase }),
      },
      {
        keys: 'b',
        does: 'Paint both sides',
        run: () => (read.painting.bothSides = !read.painting.bothSides),
      },
      { keys: 'p', does: 'Plan the base', run: () => void plan() },
    ]);
  });

  whenever(
    () => read,
    (opened) => {
      [pointed, stroke] = [null, null];
      void opened.opening.load();
    },
  );
</script>

<svelte:head><title>{read.face ? `${read.face.nickname} – ` : ''}Read – Nabrel</title></svelte:head>

<div class="flex h-full flex-col">
  <RoomBar room="read">
    <h1 class="max-w-52 truncate font-semibold">{read.face?.nickname ?? 'Read'}</h1>
    <button class="btn px-2" title="Undo (Ctrl+Z)" disabled={!read.past.length} onclick={() => read.undo()}
      ><Undo2 size={16} aria-hidden="true" />Undo</button
    >
    <button class="btn px-2" title="Redo (Ctrl+Y)" disabled={!read.future.length} onclick={() => read.redo()}
      ><Redo2 size={16} aria-hidden="true" />Redo</button
    >
    <span class="label w-16" role="status">{read.saving ? 'Saving…' : read.face ? 'Saved' : ''}</span>
    {#if kits.length}
      <Choice
        label="Kit"
        value={kit}
        options={[{ id: '', words: 'Whole shelf' }, ...kits]}
        onchoose={(next) => (kit = next)}
      />
    {/if}
    <button class="btn btn-main" disabled={!read.face} title="Plan the base (p)" onclick={plan}
      ><Layers size={15} aria-hidden="true" />Plan the base</button
    >
  </RoomBar>
  {#if read.opening.failed || !read.face}
    <Awaited of={read.opening} waits="Reading the face…" says="This face could not be opened" room>
      {#snippet leads()}<a class="btn" href={p('/')}>To the sitters</a>{/snippet}
    </Awaited>
  {:else}
    <main
      class="grid min-h-0 grow content-start gap-2 overflow-auto p-2 lg:grid-cols-[minmax(20rem,27rem)_minmax(0,1fr)] lg:grid-rows-[minmax(0,1fr)] lg:content-stretch lg:overflow-hidden"
    >
      <div class="panel flex flex-col p-3 lg:min-h-0">
        <div class="h-[24rem] shrink-0 lg:h-auto lg:min-h-[24rem] lg:shrink lg:grow">
          {#if tab === 'measures'}
            <StrokeMap {read} chosen={stroke} onchoose={(next) => (stroke = next)} />
          {:else}
            <PaintMap {read} {shown} {pointed} onpoint={(zone) => (pointed = zone)} />
          {/if}
        </div>
        <p class="label min-h-10 shrink-0" aria-live="polite">
          {#if tab === 'measures'}
            Shade a solid line, light a white one, glow dots, colour dashes.
          {:else if pointed && reading}
            <b>{words.zone(pointed)}</b>: {here.join(', ') || 'nothing to note'}; carries {reading.film_limit_um.toFixed(
              0,
            )} µm of film, {reading.oil_rate.toFixed(1)} µg/cm²·min of oil{reading.measured
              ? '; its colour was measured'
              : ''}.
          {:else}
            Left and right are the sitter's own. Click or drag to paint
            {read.painting.brush.erase
              ? 'everything away'
              : `${words.condition(read.painting.brush.condition)} ${read.painting.brush.severity}`}.
          {/if}
        </p>
      </div>
      <Tabs.Root bind:value={tab} class="flex min-w-0 flex-col gap-2 lg:min-h-0">
        <Tabs.List class="flex shrink-0 flex-wrap gap-1" aria-label="What is read">
          {#each TABS as each (each.id)}
            <Tabs.Trigger
              value={each.id}
              class="btn data-[state=active]:border-accent data-[state=active]:bg-accent-soft data-[state=active]:font-semibold"
              >{each.words}</Tabs.Trigger
            >
          {/each}
        </Tabs.List>
        {#each TABS as each (each.id)}
          <Tabs.Content value={each.id} class="flex flex-col lg:min-h-0 gap-2 lg:overflow-auto" tabindex={-1}>
            {#if tab === each.id}
              {#if tab === 'paint'}<Palette {read} bind:layer />
              {:else if tab === 'measures'}<MeasuresPanel {read} bind:chosen={stroke} />
              {:else if tab === 'colour'}<ColourPanel {read} />
              {:else if tab === 'wishes'}<WishesPanel {read} />
              {:else}<PersonPanel {read} />{/if}
            {/if}
          </Tabs.Content>
        {/each}
      </Tabs.Root>
    </main>
  {/if}
</div>

<Modal
  bind:open={
    () => read.stale !== null,
    (shown) => {
      if (!shown) void read.opening.load();
    }
  }
  title="Changed elsewhere"
  wide="34"
>
  {#snippet about()}This record was changed in another tab since you opened it.{/snippet}
  {#snippet actions()}
    <button class="btn btn-main" onclick={() => read.saveMine()}>Overwrite with mine</button>
    <button class="btn" onclick={() => read.opening.load()}>Load the latest</button>
  {/snippet}
  <p>Nothing is lost until you choose.</p>
</Modal>
