<script lang="ts">
  import { onMount, untrack } from 'svelte';
  import { searchParams } from 'sv-router';
  import ListPlus from '@lucide/svelte/icons/list-plus';
  import { inHand } from '../../parts/in-hand.svelte';
  import RoomBar from '../../parts/RoomBar.svelte';
  import { shortcuts } from '../../parts/shortcuts.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import { p, route } from '../../router';
  import { DIALOGS } from './dialogs';
  import FacePanel from './FacePanel.svelte';
  import { Moving } from './moving.svelte';
  import { layerKeys } from './keys';
  import LayerBar from './LayerBar.svelte';
  import MovingNote from './MovingNote.svelte';
  import OrderList from './OrderList.svelte';
  import PlanColumn from './PlanColumn.svelte';
  import PreviewDialog from './PreviewDialog.svelte';
  import PlanFailed from './PlanFailed.svelte';
  import ShowRoom from './ShowRoom.svelte';
  import StaleBar from './StaleBar.svelte';
  import StepPanel from './StepPanel.svelte';
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
  const plan = $derived(bench.doc.plan);
  const moving = $derived(new Moving(bench));
  /** What is open above the room, by the address: going back closes it, and a sent link opens it. */
  const dialog = $derived(asked('open'));
  const showing = $derived(dialog === 'show');
  let opened = false;
  /** Going back out of a dialog has begun, and the address still is the dialog's: it must not be written now. */
  let leaving = $state(false);

  function show(name: string) {
    opened = true;
    searchParams.set('open', name);
  }

  function close() {
    leaving = opened;
    if (opened) history.back();
    else searchParams.delete('open', undefined, { replace: true });
    opened = false;
  }

  $effect(() => {
    if (dialog === null) leaving = false;
  });

  // Also after going back from a dialog, to an address that is older than the step chosen in it.
  $effect(() => {
    if (leaving) return;
    const step = bench.stage.whole ? null : (bench.stage.step?.id ?? 'bare');
    if (!plan || asked('step') === step || location.pathname !== p('/plans/:id', { params: { id } })) return;
    if (step === null) searchParams.delete('step', undefined, { replace: true });
    else searchParams.set('step', step, { replace: true });
  });

  $effect(() => {
    const opened = bench;
    untrack(() => void opened.doc.load());
  });
  $effect(() => {
    if (plan) {
      inHand.takePlan({ id: plan.sitter_id, name: plan.nickname }, { id: plan.id, name: plan.title });
    }
  });

  onMount(() =>
    shortcuts.declare(
      layerKeys({
        bench: () => bench,
        moving: () => moving,
        show,
        toggleShow: () => (showing ? close() : show('show')),
      }),
    ),
  );
</script>

<svelte:head
  ><title>{plan ? `${plan.nickname}, ${words.school(plan.school).toLowerCase()} – ` : ''}Layer – Nabrel</title
  ></svelte:head
>

<div class="flex h-full flex-col">
  <RoomBar room="layer">
    {#if plan}<LayerBar {bench} {plan} onshow={show} />
    {/if}
  </RoomBar>

  <StaleBar {bench} />

  {#if bench.doc.failed}
    <PlanFailed {bench} />
  {:else if !plan || !words.all}
    <main class="grid grow place-items-center"><p role="status">Opening the plan…</p></main>
  {:else if showing}
    <ShowRoom {bench} onleave={close} />
  {:else}
    <main
      class="printed flex min-h-0 grow flex-col gap-2 overflow-auto p-2 md:grid md:grid-cols-[13rem_minmax(0,1fr)_16rem] md:overflow-hidden xl:grid-cols-[16.5rem_minmax(0,1fr)_21rem]"
      aria-busy={bench.doc.underway > 0}
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
        <PlanColumn {bench} {plan} {moving} onshow={show} />
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
