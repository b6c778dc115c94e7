<script lang="ts">
  import { onMount, untrack } from 'svelte';
  import { searchParams } from 'sv-router';
  import Droplet from '@lucide/svelte/icons/droplet';
  import FlaskConical from '@lucide/svelte/icons/flask-conical';
  import Columns3 from '@lucide/svelte/icons/columns-3';
  import History from '@lucide/svelte/icons/history';
  import ListChecks from '@lucide/svelte/icons/list-checks';
  import ListPlus from '@lucide/svelte/icons/list-plus';
  import Presentation from '@lucide/svelte/icons/presentation';
  import Printer from '@lucide/svelte/icons/printer';
  import Redo2 from '@lucide/svelte/icons/redo-2';
  import Scale from '@lucide/svelte/icons/scale';
  import SlidersHorizontal from '@lucide/svelte/icons/sliders-horizontal';
  import Undo2 from '@lucide/svelte/icons/undo-2';
  import type { Light, Setting } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import { inHand } from '../../parts/in-hand.svelte';
  import RoomBar from '../../parts/RoomBar.svelte';
  import { shortcuts } from '../../parts/shortcuts.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import { navigate, p, route } from '../../router';
  import DifferenceList from './DifferenceList.svelte';
  import ExportMenu from './ExportMenu.svelte';
  import FacePanel from './FacePanel.svelte';
  import FindingsPanel from './FindingsPanel.svelte';
  import ForecastPanel from './ForecastPanel.svelte';
  import { Moving } from './moving.svelte';
  import HowSure from './HowSure.svelte';
  import MovingNote from './MovingNote.svelte';
  import OrderList from './OrderList.svelte';
  import PlanFigures from './PlanFigures.svelte';
  import PreviewDialog from './PreviewDialog.svelte';
  import PlanFailed from './PlanFailed.svelte';
  import Section from './Section.svelte';
  import ShowRoom from './ShowRoom.svelte';
  import StaleBar from './StaleBar.svelte';
  import StepPanel from './StepPanel.svelte';
  import type RunDialog from './RunDialog.svelte';
  import { WorkbenchState } from './workbench.svelte';

  const id = $derived(route.pathname.split('/')[2] ?? '');
  const asked = (name: string) => {
    const found = searchParams.get(name);
    return found === null ? null : String(found);
  };
  const bench = $derived(
    new WorkbenchState(
      id,
      untrack(() => asked('step')),
    ),
  );
  const plan = $derived(bench.plan);
  const moving = $derived(new Moving(bench));
  /** What is open above the room, by the address: going back closes it, and a sent link opens it. */
  const dialog = $derived(asked('open'));
  const showing = $derived(dialog === 'show');
  /** Each is fetched when it is asked for, and only one is there at a time. */
  const DIALOGS: Record<string, () => Promise<{ default: typeof RunDialog }>> = {
    corrector: () => import('./CorrectorDialog.svelte'),
    well: () => import('./WellDialog.svelte'),
    schools: () => import('./SchoolsDialog.svelte'),
    wishes: () => import('./WishesDialog.svelte'),
    add: () => import('./AddDialog.svelte'),
    versions: () => import('./VersionsDialog.svelte'),
    run: () => import('./RunDialog.svelte'),
  };
  let opened = false;

  function show(name: string) {
    opened = true;
    searchParams.set('open', name);
  }

  function close() {
    if (opened) history.back();
    else searchParams.delete('open', undefined, { replace: true });
    opened = false;
  }

  // Also after going back from a dialog, to an address that is older than the step chosen in it.
  $effect(() => {
    const step = bench.whole ? null : (bench.step?.id ?? 'bare');
    if (!plan || asked('step') === step || location.pathname !== p('/plans/:id', { params: { id } })) return;
    if (step === null) searchParams.delete('step', undefined, { replace: true });
    else searchParams.set('step', step, { replace: true });
  });

  $effect(() => {
    const opened = bench;
    untrack(() => void opened.load());
  });
  $effect(() => {
    if (plan) {
      const name = plan.title.replace(plan.nickname, '').replace(/^[\s,:–-]+/, '') || plan.title;
      inHand.takePlan({ id: plan.sitter_id, name: plan.nickname }, { id: plan.id, name });
    }
  });

  onMount(() =>
    shortcuts.declare([
      { keys: 'ArrowRight', does: 'Next layer', run: () => bench.choose(bench.at + 1) },
      { keys: 'ArrowLeft', does: 'Layer before', run: () => bench.choose(bench.at - 1) },
      { keys: 'Home', does: 'Bare skin', run: () => bench.choose(-1) },
      { keys: 'End', does: 'Finished base', run: () => bench.choose(Infinity) },
      { keys: 'Alt+ArrowUp', does: 'Step earlier', run: () => bench.step && void bench.move(bench.step, -1) },
      { keys: 'Alt+ArrowDown', does: 'Step later', run: () => bench.step && void bench.move(bench.step, 1) },
      {
        keys: 'x',
        does: 'Pick the step up, to place it elsewhere',
        run: () => bench.step && void moving.pick(bench.step, true),
      },
      {
        keys: 'Delete',
        does: 'Take the step out',
        run: () => bench.step && void bench.edit([{ edit: 'remove', step: bench.step.id }]),
      },
      { keys: 'c', does: 'Which corrector here?', run: () => show('corrector') },
      { keys: 'm', does: 'Mixing well', run: () => show('well') },
      { keys: 's', does: 'Which school here?', run: () => show('schools') },
      { keys: 'w', does: 'Wishes and ways of working', run: () => show('wishes') },
      { keys: 'a', does: 'Add a step', run: () => show('add') },
      { keys: 'v', does: 'Versions of this plan', run: () => show('versions') },
      { keys: 'g', does: 'Weigh candidates', run: () => void navigate('/weigh/:id', { params: { id } }) },
      { keys: 'd', does: 'Done today: take it from the shelf', run: () => show('run') },
      { keys: 'p', does: 'Show it to a class', run: () => (showing ? close() : show('show')) },
      { keys: 'Ctrl+Z', does: 'Undo', run: () => void bench.undo() },
      { keys: 'Ctrl+Y', does: 'Redo', run: () => void bench.redo() },
    ]),
  );

  const lights = $derived(
    (words.all?.lights ?? []).map((light) => ({ id: light.id as Light, words: light.words })),
  );
  const settings = $derived(
    (words.all?.settings ?? []).map((setting) => ({
      id: setting.id as NonNullable<Setting>,
      words: setting.words,
    })),
  );
</script>

<svelte:head
  ><title>{plan ? `${plan.nickname}, ${words.school(plan.school).toLowerCase()} – ` : ''}Layer – Nabrel</title
  ></svelte:head
>

<div class="flex h-full flex-col">
  <RoomBar room="layer">
    {#if plan}
      <h1 class="sr-only">{plan.title || plan.nickname}</h1>
      <Choice
        label="School"
        value={plan.school}
        options={(words.all?.schools ?? []).map((school) => ({ id: school.id, words: school.words }))}
        onchoose={(school) => bench.consider({ school })}
      />
      <button class="btn px-2" title="Which school here? (s)" onclick={() => show('schools')}
        ><Scale size={16} aria-hidden="true" />Schools</button
      >
      <Choice
        label="Setting"
        value={plan.intent.setting ?? 'spot'}
        options={settings}
        onchoose={(setting) => bench.consider({ setting })}
      />
      <Choice label="Light" value={plan.light} options={lights} onchoose={(light) => bench.see(light)} />
      <button
        class="btn px-2"
        title={plan.undo_says ? `Undo: ${plan.undo_says}` : 'Nothing to undo'}
        disabled={!plan.undo_says || bench.busy}
        onclick={() => bench.undo()}
      >
        <Undo2 size={16} aria-hidden="true" />Undo
      </button>
      <button
        class="btn px-2"
        title={plan.redo_says ? `Redo: ${plan.redo_says}` : 'Nothing to redo'}
        disabled={!plan.redo_says || bench.busy}
        onclick={() => bench.redo()}
      >
        <Redo2 size={16} aria-hidden="true" />Redo
      </button>
      <button class="btn" title="Wishes and ways of working (w)" onclick={() => show('wishes')}
        ><SlidersHorizontal size={15} aria-hidden="true" />Wishes</button
      >
      <ExportMenu planId={plan.id} />
      <a class="btn px-2" href={p('/sheet/:id', { params: { id } })} title="Sheet to print"
        ><Printer size={15} aria-hidden="true" />Sheet</a
      >
    {/if}
  </RoomBar>

  <StaleBar {bench} />

  {#if bench.failed}
    <PlanFailed {bench} />
  {:else if !plan || !words.all}
    <main class="grid grow place-items-center"><p role="status">Opening the plan…</p></main>
  {:else if showing}
    <ShowRoom {bench} onleave={close} />
  {:else}
    <main
      class="printed flex min-h-0 grow flex-col gap-2 overflow-auto p-2 md:grid md:grid-cols-[13rem_minmax(0,1fr)_16rem] md:overflow-hidden xl:grid-cols-[16.5rem_minmax(0,1fr)_21rem]"
      aria-busy={bench.underway > 0}
    >
      <div class="panel flex max-h-80 shrink-0 flex-col p-1.5 md:max-h-none md:min-h-0 md:shrink">
        <div class="flex items-center justify-between px-2 pb-1">
          <h2 class="heading">Order</h2>
          <button
            class="btn no-print h-7 px-1.5"
            aria-label="Add a step"
            title="Add a step (a)"
            onclick={() => show('add')}><ListPlus size={15} aria-hidden="true" /></button
          >
        </div>
        <OrderList {bench} {moving} onadd={() => show('add')} />
      </div>

      <div
        class="flex shrink-0 flex-col gap-2 md:min-h-0 md:shrink md:overflow-auto md:[scrollbar-gutter:stable] md:[scrollbar-width:thin]"
      >
        <div class="panel p-2.5">
          <Section
            {plan}
            at={bench.shown}
            chosen={bench.at}
            pointed={bench.pointed}
            onchoose={(step) => bench.choose(step)}
            onpoint={(zone) => (bench.pointed = zone)}
            {moving}
            picked={bench.picked}
            onpick={(zone) => bench.toggle(zone)}
          />
        </div>
        <div class="panel flex flex-col gap-2 p-2.5">
          <PlanFigures {bench} />
          <div class="no-print flex flex-wrap gap-2">
            <button class="btn px-2" title="Which corrector here? (c)" onclick={() => show('corrector')}
              ><Droplet size={15} aria-hidden="true" />Corrector</button
            >
            <button class="btn px-2" title="Mixing well (m)" onclick={() => show('well')}
              ><FlaskConical size={15} aria-hidden="true" />Mixing well</button
            >
            <button class="btn px-2" title="Versions of this plan (v)" onclick={() => show('versions')}
              ><History size={15} aria-hidden="true" />Versions</button
            >
            <a class="btn px-2" title="Weigh candidates (g)" href={p('/weigh/:id', { params: { id } })}
              ><Columns3 size={15} aria-hidden="true" />Weigh</a
            >
            <button class="btn px-2" title="Show it to a class (p)" onclick={() => show('show')}
              ><Presentation size={15} aria-hidden="true" />Show</button
            >
            <button class="btn px-2" title="Done today (d)" onclick={() => show('run')}
              ><ListChecks size={15} aria-hidden="true" />Done today</button
            >
          </div>
        </div>
        <FindingsPanel {bench} />
        <HowSure {bench} />
        {#if plan.difference && (plan.difference.says.length || plan.difference.figures.length)}
          <details class="panel p-2.5" open>
            <summary class="heading cursor-pointer">What that change did</summary>
            <DifferenceList difference={plan.difference} done />
          </details>
        {/if}
        <ForecastPanel {bench} />
        {#if plan.notes?.length}
          <section class="panel p-2.5" aria-label="About this plan">
            <h2 class="heading">About this plan</h2>
            <ul class="list-disc pl-4">
              {#each plan.notes as note (note)}<li>{note}</li>{/each}
            </ul>
          </section>
        {/if}
        {#if plan.left_bare?.length}
          <details class="panel p-2.5">
            <summary class="heading cursor-pointer">Left bare on purpose ({plan.left_bare.length})</summary>
            <ul class="mt-1 flex flex-col gap-0.5">
              {#each plan.left_bare as bare (bare.zone + bare.kind)}
                <li><b>{words.zone(bare.zone)}</b>, no {words.step(bare.kind).toLowerCase()}: {bare.why}</li>
              {/each}
            </ul>
          </details>
        {/if}
      </div>

      <div
        class="flex shrink-0 flex-col gap-2 md:min-h-0 md:shrink md:overflow-auto md:[scrollbar-gutter:stable] md:[scrollbar-width:thin]"
      >
        <div class="panel p-2"><FacePanel {bench} /></div>
        <div class="panel p-3"><StepPanel {bench} /></div>
        <p class="label px-1">
          {#if plan.totals.tested_dose_share != null}
            The foundation is {Math.round(plan.totals.tested_dose_share * 100)} % of the 2 mg/cm² at which a sunscreen's
            label is tested: it is not sun protection.
          {/if}
          A planning aid, not a measurement of a person. Local hygiene codes and licensed practice come first; stop
          and remove at stinging, swelling or a rash.
        </p>
      </div>
    </main>
    <MovingNote {bench} {moving} />
    <PreviewDialog {bench} />
    {#if dialog && DIALOGS[dialog]}
      {#await DIALOGS[dialog]() then { default: Dialog }}
        <Dialog {bench} bind:open={() => true, (on: boolean) => on || close()} />
      {/await}
    {/if}
  {/if}
</div>
