<script lang="ts">
  import { onMount, untrack } from 'svelte';
  import Droplet from '@lucide/svelte/icons/droplet';
  import FlaskConical from '@lucide/svelte/icons/flask-conical';
  import Columns3 from '@lucide/svelte/icons/columns-3';
  import History from '@lucide/svelte/icons/history';
  import ListChecks from '@lucide/svelte/icons/list-checks';
  import Download from '@lucide/svelte/icons/download';
  import ListPlus from '@lucide/svelte/icons/list-plus';
  import Redo2 from '@lucide/svelte/icons/redo-2';
  import Scale from '@lucide/svelte/icons/scale';
  import ScrollText from '@lucide/svelte/icons/scroll-text';
  import SlidersHorizontal from '@lucide/svelte/icons/sliders-horizontal';
  import Undo2 from '@lucide/svelte/icons/undo-2';
  import type { Light, Setting } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import FaceMap from '../../parts/FaceMap.svelte';
  import FaceSlider from '../../parts/FaceSlider.svelte';
  import { open } from '../../parts/open.svelte';
  import { savePng, saveSvg } from '../../parts/picture';
  import RoomBar from '../../parts/RoomBar.svelte';
  import { shortcuts } from '../../parts/shortcuts.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import { navigate, p, route } from '../../router';
  import CorrectorDialog from './CorrectorDialog.svelte';
  import DifferenceList from './DifferenceList.svelte';
  import FindingCard from './FindingCard.svelte';
  import ForecastPanel from './ForecastPanel.svelte';
  import LateDialog from './LateDialog.svelte';
  import OrderList from './OrderList.svelte';
  import PlanFigures from './PlanFigures.svelte';
  import PreviewDialog from './PreviewDialog.svelte';
  import SchoolsDialog from './SchoolsDialog.svelte';
  import Section from './Section.svelte';
  import StepPanel from './StepPanel.svelte';
  import WellDialog from './WellDialog.svelte';
  import WishesDialog from './WishesDialog.svelte';
  import RunDialog from './RunDialog.svelte';
  import VersionsDialog from './VersionsDialog.svelte';
  import { WorkbenchState } from './workbench.svelte';

  const id = $derived(route.pathname.split('/')[2] ?? '');
  const bench = $derived(new WorkbenchState(id));
  const plan = $derived(bench.plan);
  let correctorOpen = $state(false);
  let wellOpen = $state(false);
  let schoolsOpen = $state(false);
  let wishesOpen = $state(false);
  let lateOpen = $state(false);
  let chart = $state<SVGSVGElement>();
  let beside = $state<'nothing' | 'bare' | 'aim'>('nothing');
  let versionsOpen = $state(false);
  let runOpen = $state(false);

  $effect(() => {
    const opened = bench;
    open.plan = opened.id;
    untrack(() => void opened.load());
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
        keys: 'Delete',
        does: 'Take the step out',
        run: () => bench.step && void bench.edit([{ edit: 'remove', step: bench.step.id }]),
      },
      { keys: 'c', does: 'Which corrector here?', run: () => (correctorOpen = true) },
      { keys: 'm', does: 'Mixing well', run: () => (wellOpen = true) },
      { keys: 's', does: 'Which school here?', run: () => (schoolsOpen = true) },
      { keys: 'w', does: 'Wishes and ways of working', run: () => (wishesOpen = true) },
      { keys: 'a', does: 'Add a step', run: () => (lateOpen = true) },
      { keys: 'v', does: 'Versions of this plan', run: () => (versionsOpen = true) },
      { keys: 'g', does: 'Weigh candidates', run: () => void navigate('/weigh/:id', { params: { id } }) },
      { keys: 'd', does: 'Done today: take it from the shelf', run: () => (runOpen = true) },
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
  const speaking = $derived(plan?.findings.filter((finding) => !finding.accepted) ?? []);
  const lived = $derived(plan?.findings.filter((finding) => finding.accepted) ?? []);
  const grave = $derived(speaking.filter((finding) => finding.severity !== 'advice').length);
  const stageName = $derived(bench.step ? `after ${words.step(bench.step.kind).toLowerCase()}` : 'bare skin');
</script>

<svelte:head
  ><title>{plan ? `${plan.nickname}, ${words.school(plan.school).toLowerCase()} – ` : ''}Layer – Nabrel</title
  ></svelte:head
>

<div class="flex h-full flex-col">
  <RoomBar>
    {#if plan}
      <h1 class="max-w-52 truncate font-semibold">
        <a href={p('/sitters/:id', { params: { id: plan.sitter_id } })} class="hover:underline"
          >{plan.title || plan.nickname}</a
        >
      </h1>
      <Choice
        label="School"
        value={plan.school}
        options={(words.all?.schools ?? []).map((school) => ({ id: school.id, words: school.words }))}
        onchoose={(school) => bench.consider({ school })}
      />
      <button
        class="btn px-2"
        aria-label="Which school here?"
        title="Which school here? (s)"
        onclick={() => (schoolsOpen = true)}><Scale size={16} aria-hidden="true" /></button
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
        aria-label="Undo"
        title={plan.undo_says ? `Undo: ${plan.undo_says}` : 'Nothing to undo'}
        disabled={!plan.undo_says || bench.busy}
        onclick={() => bench.undo()}
      >
        <Undo2 size={16} aria-hidden="true" />
      </button>
      <button
        class="btn px-2"
        aria-label="Redo"
        title={plan.redo_says ? `Redo: ${plan.redo_says}` : 'Nothing to redo'}
        disabled={!plan.redo_says || bench.busy}
        onclick={() => bench.redo()}
      >
        <Redo2 size={16} aria-hidden="true" />
      </button>
      <button class="btn" title="Wishes and ways of working (w)" onclick={() => (wishesOpen = true)}
        ><SlidersHorizontal size={15} aria-hidden="true" />Wishes</button
      >
      <a class="btn" href="/api/sequences/{plan.id}/file" download
        ><Download size={15} aria-hidden="true" />Sequence</a
      >
      <a class="btn" href="/api/sequences/{plan.id}/told" download
        ><ScrollText size={15} aria-hidden="true" />Told</a
      >
    {/if}
  </RoomBar>

  {#if bench.stale}
    <div role="alert" class="flex flex-wrap items-center gap-3 border-b-2 border-ink bg-well px-3 py-2">
      <b>This plan was changed in another tab or by someone else.</b>
      <span>Your last edit was not applied; nothing of theirs was overwritten.</span>
      <button class="btn btn-main" onclick={() => bench.load()}>Show the newest</button>
    </div>
  {/if}

  {#if bench.failed}
    <main class="grid grow place-items-center p-4">
      <div class="panel max-w-lg p-6" role="alert">
        <h1 class="heading text-lg">This plan could not be opened</h1>
        <p class="my-2 break-words">{bench.failed}</p>
        <button class="btn" onclick={() => bench.load()}>Try again</button>
        <a class="btn" href={p('/')}>Go to the sitters</a>
      </div>
    </main>
  {:else if !plan || !words.all}
    <main class="grid grow place-items-center"><p role="status">Laying out the plan…</p></main>
  {:else}
    <main
      class="flex min-h-0 grow flex-col gap-2 overflow-auto p-2 md:grid md:grid-cols-[13rem_minmax(0,1fr)_16rem] md:overflow-hidden xl:grid-cols-[15rem_minmax(0,1fr)_21rem]"
      aria-busy={bench.busy}
    >
      <div class="panel flex max-h-80 shrink-0 flex-col p-1.5 md:max-h-none md:min-h-0 md:shrink">
        <div class="flex items-center justify-between px-2 pb-1">
          <h2 class="heading">Order</h2>
          <button
            class="btn no-print h-7 px-1.5"
            aria-label="Add a step"
            title="Add a step (a)"
            onclick={() => (lateOpen = true)}><ListPlus size={15} aria-hidden="true" /></button
          >
        </div>
        <OrderList {bench} />
      </div>

      <div class="flex shrink-0 flex-col gap-2 md:min-h-0 md:shrink md:overflow-auto">
        <div class="panel p-2.5">
          <Section
            {plan}
            at={bench.at}
            pointed={bench.pointed}
            onchoose={(step) => bench.choose(step)}
            onpoint={(zone) => (bench.pointed = zone)}
          />
        </div>
        <div class="panel flex flex-col gap-2 p-2.5">
          <PlanFigures {bench} />
          <div class="no-print flex flex-wrap gap-2">
            <button class="btn" title="Which corrector here? (c)" onclick={() => (correctorOpen = true)}
              ><Droplet size={15} aria-hidden="true" />Corrector</button
            >
            <button class="btn" title="Mixing well (m)" onclick={() => (wellOpen = true)}
              ><FlaskConical size={15} aria-hidden="true" />Mixing well</button
            >
            <button class="btn" title="Versions of this plan (v)" onclick={() => (versionsOpen = true)}
              ><History size={15} aria-hidden="true" />Versions</button
            >
            <a class="btn" title="Weigh candidates (g)" href={p('/weigh/:id', { params: { id } })}
              ><Columns3 size={15} aria-hidden="true" />Weigh</a
            >
            <button class="btn" title="Done today (d)" onclick={() => (runOpen = true)}
              ><ListChecks size={15} aria-hidden="true" />Done today</button
            >
          </div>
        </div>
        <section class="panel p-2.5" aria-label="Findings">
          <h2 class="heading mb-1">
            {speaking.length
              ? `${speaking.length} ${speaking.length === 1 ? 'finding' : 'findings'}, ${grave} to mend`
              : 'No findings: every rule is kept'}
          </h2>
          <div class="grid gap-2 xl:grid-cols-2">
            {#each speaking as finding (finding.rule + finding.says)}<FindingCard {bench} {finding} />{/each}
          </div>
          {#if lived.length}
            <details class="mt-2">
              <summary class="cursor-pointer">Lived with ({lived.length})</summary>
              <div class="mt-1 grid gap-2 xl:grid-cols-2">
                {#each lived as finding (finding.rule + finding.says)}<FindingCard {bench} {finding} />{/each}
              </div>
            </details>
          {/if}
        </section>
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

      <div class="flex shrink-0 flex-col gap-2 md:min-h-0 md:shrink md:overflow-auto">
        <div class="panel p-2">
          <div class="flex h-64 flex-col">
            {#if beside === 'nothing'}
              <FaceMap
                bind:drawing={chart}
                proportions={plan.proportions}
                colours={bench.colours}
                chosen={bench.pointed ? [bench.pointed] : (bench.step?.zones ?? [])}
                label="{plan.nickname}, {stageName}, in {words.light(plan.light).toLowerCase()}"
                onpoint={(zone) => (bench.pointed = zone)}
              />
            {:else}
              <FaceSlider
                proportions={plan.proportions}
                left={{ colours: bench.colours, words: stageName }}
                right={{
                  colours: beside === 'bare' ? bench.coloursAt(-1) : bench.aimedAt,
                  words: beside === 'bare' ? 'bare skin' : 'aimed at',
                }}
                chosen={bench.pointed ? [bench.pointed] : (bench.step?.zones ?? [])}
                onpoint={(zone) => (bench.pointed = zone)}
              />
            {/if}
          </div>
          <div class="no-print mt-1 flex items-center gap-2 text-xs">
            <span>Beside</span>
            <Choice
              label="Beside"
              value={beside}
              options={[
                { id: 'nothing', words: 'Nothing' },
                { id: 'bare', words: 'Bare skin' },
                { id: 'aim', words: 'The complexion aimed at' },
              ]}
              onchoose={(next) => (beside = next)}
            />
            {#if beside === 'nothing'}
              <span class="ml-auto flex gap-1">
                <button class="btn h-7" onclick={() => chart && saveSvg(chart, `${plan.nickname}-face`)}
                  >SVG<span class="sr-only"> of the face</span></button
                >
                <button class="btn h-7" onclick={() => chart && void savePng(chart, `${plan.nickname}-face`)}
                  >PNG<span class="sr-only"> of the face</span></button
                >
              </span>
            {/if}
          </div>
          <label class="mt-1 flex items-center gap-2 text-xs">
            <span class="w-24 shrink-0">Layer {bench.at + 1} of {plan.steps.length}</span>
            <input
              type="range"
              class="grow accent-[var(--accent)]"
              min="-1"
              max={plan.steps.length - 1}
              value={bench.at}
              aria-label="Layer shown"
              aria-valuetext={stageName}
              oninput={(event) => bench.choose(Number(event.currentTarget.value))}
            />
          </label>
        </div>
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
    <PreviewDialog {bench} />
    <CorrectorDialog {bench} bind:open={correctorOpen} />
    <WellDialog {bench} bind:open={wellOpen} />
    <SchoolsDialog {bench} bind:open={schoolsOpen} />
    <WishesDialog {bench} bind:open={wishesOpen} />
    <LateDialog {bench} bind:open={lateOpen} />
    <VersionsDialog {bench} bind:open={versionsOpen} />
    <RunDialog {bench} bind:open={runOpen} />
  {/if}
</div>
