<script lang="ts">
  import { activeOf, handsOf, itemOf, namesOf, unitWords } from '../../plan/steps';
  import { keyOf } from './marks';
  import { tick } from 'svelte';
  import Hourglass from '@lucide/svelte/icons/hourglass';
  import { view } from '../../parts/view.svelte';
  import Swatch from '../../parts/Swatch.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import type { Step } from '../../api/client';
  import { Dragging } from './dragging';
  import type { Moving } from './moving.svelte';
  import SeverityMark from './SeverityMark.svelte';
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
    void tick().then(() => list?.querySelector(`[data-index="${at}"]`)?.scrollIntoView({ block: 'nearest' }));
  });

  $effect(() => {
    if (moving.gap)
      void tick().then(() => list?.querySelector('[data-drop]')?.scrollIntoView({ block: 'nearest' }));
  });

  function amount(step: Step): string {
    const amounts = step.portions.map((portion) => portion.amount ?? 0);
    if (!step.unit || !amounts.length) return '';
    const [least, most] = [Math.min(...amounts), Math.max(...amounts)];
    return `${least === most ? '' : `${least}–`}${most} ${unitWords(step)}`;
  }

  function wait(seconds: number): string {
    return seconds >= 120 ? `${Math.round(seconds / 60)} min` : `${Math.round(seconds)} s`;
  }

  /** Steps in a row of one chapter, with the minutes they take, waits included. */
  const chapters = $derived.by(() => {
    const found: { words: string; first: number; steps: Step[]; minutes: number }[] = [];
    plan?.steps.forEach((step, index) => {
      if (plan.chapters[index] !== plan.chapters[index - 1] || !found.length) {
        const words = (plan.chapters[index] ?? '').replace(/^./, (first) => first.toUpperCase());
        found.push({ words, first: index, steps: [], minutes: 0 });
      }
      found.at(-1)?.steps.push(step);
    });
    for (const chapter of found) {
      const seconds = chapter.steps.reduce((sum, step) => sum + activeOf(step) + (step.wait_s ?? 0), 0);
      chapter.minutes = Math.max(1, Math.round(seconds / 60));
    }
    return found;
  });

  function withWhat(step: Step): string {
    const tools = [
      ...new Set(handsOf(step).flatMap(({ tool }) => (tool ? [words.tool(tool).toLowerCase()] : []))),
    ];
    const take = view.instrument ? '' : (step.take?.words ?? '');
    return [plan ? namesOf(step, plan.products) : '', take, ...tools].filter(Boolean).join(' · ');
  }

  /** Numbers of the steps that speak against this one together with it. */
  function clashes(step: Step): number[] {
    const others = (plan?.findings ?? [])
      .filter((finding) => !finding.accepted)
      .flatMap(({ steps, against = [] }) => [
        ...(steps.includes(step.id) ? against : []),
        ...(against.includes(step.id) ? steps : []),
      ])
      .filter((id) => id !== step.id);
    return [...new Set(others)]
      .map((id) => bench.doc.number(id))
      .filter((number) => number > 0)
      .sort((one, other) => one - other);
  }

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
        : '-top-2.5'} right-1 z-10 rounded-sm px-1 text-xs font-semibold {moving.gap?.refused
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
        class="flex w-full items-center gap-2 rounded-sm border-l-4 px-2 py-1 text-left {bench.stage.at === -1
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
              {@const found = bench.doc.findingsOf(step.id).filter((finding) => !finding.accepted)}
              {@const against = clashes(step)}
              {#if before === step.id}{@render drop()}{/if}
              <li
                data-step={step.id}
                class={moving.step?.id === step.id
                  ? 'outline-2 -outline-offset-2 outline-dashed outline-ink'
                  : ''}
              >
                <button
                  data-index={index}
                  class="grid w-full grid-cols-[1.25rem_minmax(0,1fr)_auto] items-baseline gap-x-2 rounded-sm border-l-4 px-2 py-1 text-left {bench
                    .stage.at === index
                    ? 'border-accent bg-well'
                    : 'border-transparent hover:bg-well'}"
                  aria-current={bench.stage.at === index ? 'step' : undefined}
                  onpointerdown={(event) => !moving.step && dragging.down(event, step)}
                  onclick={() => dragging.clicked() && bench.stage.choose(index)}
                >
                  <span class="label text-right">{index + 1}</span>
                  <span class="min-w-0">
                    <span class="flex items-center gap-1.5">
                      {#if plan.swatches[itemOf(step) ?? '']}<Swatch
                          hex={plan.swatches[itemOf(step) ?? ''] ?? ''}
                          size={13}
                        />{/if}
                      <span class="truncate font-semibold">{words.step(step.kind)}</span>
                      {#each found as finding (keyOf(finding))}<SeverityMark
                          severity={finding.severity}
                        />{/each}
                    </span>
                  </span>
                  <span class="label text-right whitespace-nowrap">{view.instrument ? amount(step) : ''}</span
                  >
                  <span class="col-span-2 col-start-2 flex min-w-0 items-center gap-1">
                    <span class="label min-w-0 grow truncate" title={withWhat(step)}>{withWhat(step)}</span>
                    {#if step.wait_s}
                      <span class="label flex shrink-0 items-center gap-0.5"
                        ><Hourglass size={11} aria-hidden="true" /><span class="sr-only"
                          >then wait
                        </span>{wait(step.wait_s)}</span
                      >
                    {/if}
                  </span>
                  {#if against.length}<span class="col-span-2 col-start-2 text-xs font-semibold"
                      >clashes with {against.join(', ')}</span
                    >{/if}
                </button>
              </li>
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
        class="btn h-auto min-h-8 whitespace-normal"
        onclick={() => bench.proposal.consider({ school: plan.school })}
        >Plan this face, {words.school(plan.school).toLowerCase()}</button
      >
    </div>
  {/if}
{/if}
