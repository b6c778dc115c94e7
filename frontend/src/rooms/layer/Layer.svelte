<script lang="ts">
  import { onMount, untrack } from 'svelte';
  import ListPlus from '@lucide/svelte/icons/list-plus';
  import { inHand } from '../../parts/in-hand.svelte';
  import Help from '../../parts/Help.svelte';
  import RoomBar from '../../parts/RoomBar.svelte';
  import { shortcuts } from '../../parts/shortcuts.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import { p, route } from '../../router';
  import { asked, LayerAddress } from './address.svelte';
  import { DIALOGS } from './dialogs';
  import FacePanel from './FacePanel.svelte';
  import { Moving } from './moving.svelte';
  import { layerKeys } from './keys';
  import LayerBar from './LayerBar.svelte';
  import MovingNote from './MovingNote.svelte';
  import OrderList from './OrderList.svelte';
  import PlanColumn from './PlanColumn.svelte';
  import PreviewDialog from './PreviewDialog.svelte';
  import ShowRoom from './ShowRoom.svelte';
  import StaleBar from './StaleBar.svelte';
  import StepPanel from './StepPanel.svelte';
  import { WorkbenchState } from './workbench.svelte';
  import Awaited from '../../parts/Awaited.svelte';
  import { whenever } from '../../parts/whenever.svelte';

  const id = $derived(route.params.id ?? '');
  const bench = $derived(
    new WorkbenchState(
      id,
      untrack(() => asked('step')),
    ),
  );
  const plan = $derived(bench.doc.plan);
  const moving = $derived(new Moving(bench));
  const address = new LayerAddress();
  const dialog = $derived(address.dialog);
  const showing = $derived(dialog === 'show');
  const show = (name: string) => address.show(name);
  const close = () => address.close();

  $effect(() => {
    if (plan) address.showStep(id, bench.stage.whole ? null : (bench.stage.step?.id ?? 'bare'));
  });

  whenever(
    () => bench.doc.opening,
    (opening) => void opening.load(),
  );
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

  {#if bench.doc.opening.failed || !plan || !words.all}
    <Awaited of={bench.doc.opening} waits="Opening the plan…" says="This plan could not be opened" room>
      {#snippet leads()}<a class="btn" href={p('/')}>Go to the sitters</a>{/snippet}
    </Awaited>
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
            class="btn no-print h-control-s px-1.5"
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
            label is tested: it is not sun protection. <Help of="tested_dose" />
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
