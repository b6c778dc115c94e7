<script lang="ts">
  import { tick } from 'svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import type { Step } from '../../api/client';
  import { Dragging } from './dragging';
  import type { Moving } from './moving.svelte';
  import { chaptersOf } from './order';
  import OrderRow from './OrderRow.svelte';
  import type { WorkbenchState } from './workbench.svelte';

  interface Props {
    bench: WorkbenchState;
    moving: Moving;
    /** Asked for a step where there is none. */
    onadd: () => void;
  }

  let { bench, moving, onadd }: Props = $props();
  let list = $state<HTMLOListElement>();
  const dragging = new Dragging<Step>((step) => void moving.pick(step, false));

  const plan = $derived(bench.doc.plan);
  /** Step that the held one would stand before; null is the end, undefined while none is held. */
  const before = $derived(moving.gap ? moving.gap.before : undefined);

  $effect(() => {
    const at = bench.stage.at;
    // With the frame: asked sooner, it lays out a page that is still being made, and that is laid out again.
    const frame = requestAnimationFrame(() =>
      list?.querySelector(`[data-index="${at}"]`)?.scrollIntoView({ block: 'nearest' }),
    );
    return () => cancelAnimationFrame(frame);
  });

  $effect(() => {
    if (moving.gap)
      void tick().then(() => list?.querySelector('[data-drop]')?.scrollIntoView({ block: 'nearest' }));
  });

  const chapters = $derived(plan ? chaptersOf(plan) : []);

  function drag(event: PointerEvent) {
    if (!dragging.moved(event) || !moving.gaps.length) return;
    const rows = [...(list?.querySelectorAll<HTMLElement>('[data-step]') ?? [])];
    const place = rows.findIndex((row) => {
      const { top, height } = row.getBoundingClientRect();
      return event.clientY < top + height / 2;
    });
    moving.holdAt(place < 0 ? rows.length : place);
  }
</script>

<svelte:window
  onpointermove={drag}
  onpointerup={() => dragging.up() && moving.step && void moving.put()}
  onpointercancel={() => dragging.up() && moving.leave()}
/>

{#snippet drop()}
  <li data-drop class="relative h-0" aria-hidden="true">
    <div
      class="absolute inset-x-0 -top-px border-t-2 {moving.gap?.refused
        ? 'border-dashed border-ink'
        : 'border-accent'}"
    ></div>
    <span
      class="absolute {moving.over === 0
        ? 'top-0.5'
        : '-top-2.5'} right-1 z-10 rounded-control px-1 text-xs font-semibold {moving.gap?.refused
        ? 'bg-ink text-panel'
        : 'bg-accent text-on-accent'}">{moving.gap?.refused ? '✕ not here' : 'here'}</span
    >
  </li>
{/snippet}

{#if plan}
  <ol bind:this={list} class="min-h-0 overflow-auto select-none" aria-label="Order of steps">
    <li>
      <button
        data-index={-1}
        class="flex w-full items-center gap-2 rounded-control border-l-4 px-2 py-1 text-left {bench.stage
          .at === -1
          ? 'border-accent bg-well'
          : 'border-transparent hover:bg-well'}"
        aria-current={bench.stage.at === -1 ? 'step' : undefined}
        onclick={() => bench.stage.choose(-1)}
      >
        <span class="label w-5 text-right">0</span>Bare skin
      </button>
    </li>
    {#each chapters as chapter (chapter.first)}
      <li>
        <details open class="border-t border-line">
          <summary class="label cursor-pointer px-2 pt-1 text-xs font-semibold"
            >{chapter.words} <span class="font-normal">· {chapter.minutes} min</span></summary
          >
          <ol aria-label={chapter.words}>
            {#each chapter.steps as step, place (step.id)}
              {@const index = chapter.first + place}
              {#if before === step.id}{@render drop()}{/if}
              <OrderRow
                {bench}
                {plan}
                {step}
                {index}
                held={moving.step?.id === step.id}
                ondown={(event) => !moving.step && dragging.down(event, step)}
                onchoose={() => dragging.clicked() && bench.stage.choose(index)}
              />
            {/each}
          </ol>
        </details>
      </li>
    {/each}
    {#if before === null}{@render drop()}{/if}
  </ol>
  {#if !plan.steps.length}
    <div class="flex flex-col items-start gap-2 px-2 py-3">
      <p>There is no step in this plan.</p>
      <button class="btn" onclick={onadd}>Add a step</button>
      <button
        class="btn h-auto min-h-control whitespace-normal"
        onclick={() => bench.proposal.consider({ school: plan.school })}
        >Plan this face, {words.school(plan.school).toLowerCase()}</button
      >
    </div>
  {/if}
{/if}
