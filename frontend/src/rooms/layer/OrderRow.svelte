<script lang="ts">
  import Hourglass from '@lucide/svelte/icons/hourglass';
  import type { Step, Workbench } from '../../api/client';
  import Swatch from '../../parts/Swatch.svelte';
  import { view } from '../../parts/view.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import { handsOf, itemOf, namesOf } from '../../plan/steps';
  import { keyOf } from './marks';
  import { amountWords, clashing, waitWords } from './order';
  import SeverityMark from './SeverityMark.svelte';
  import type { WorkbenchState } from './workbench.svelte';

  interface Props {
    bench: WorkbenchState;
    plan: Workbench;
    step: Step;
    index: number;
    /** Held, to be put elsewhere. */
    held: boolean;
    ondown: (event: PointerEvent) => void;
    onchoose: () => void;
  }

  /** One step in the order: what, with what and how much, what speaks against it. */
  let { bench, plan, step, index, held, ondown, onchoose }: Props = $props();
  const chosen = $derived(bench.stage.at === index);
  const swatch = $derived(plan.swatches[itemOf(step) ?? '']);
  const found = $derived(bench.doc.findingsOf(step.id).filter((finding) => !finding.accepted));
  /** Numbers of the steps that speak against this one together with it. */
  const against = $derived(
    clashing(plan, step)
      .map((id) => bench.doc.number(id))
      .filter((number) => number > 0)
      .sort((one, other) => one - other),
  );
  const withWhat = $derived.by(() => {
    const tools = handsOf(step).flatMap(({ tool }) => (tool ? [words.tool(tool).toLowerCase()] : []));
    const take = view.instrument ? '' : (step.take?.words ?? '');
    return [namesOf(step, plan.products), take, ...new Set(tools)].filter(Boolean).join(' · ');
  });
</script>

<li data-step={step.id} class={held ? 'outline-2 -outline-offset-2 outline-dashed outline-ink' : ''}>
  <button
    data-index={index}
    class="grid w-full grid-cols-[1.25rem_minmax(0,1fr)_auto] items-baseline gap-x-2 rounded-control border-l-4 px-2 py-1 text-left {chosen
      ? 'border-accent bg-well'
      : 'border-transparent hover:bg-well'}"
    aria-current={chosen ? 'step' : undefined}
    onpointerdown={ondown}
    onclick={onchoose}
  >
    <span class="label text-right">{index + 1}</span>
    <span class="min-w-0">
      <span class="flex items-center gap-1.5">
        {#if swatch}<Swatch hex={swatch} size={13} />{/if}
        <span class="truncate font-semibold">{words.step(step.kind)}</span>
        {#each found as finding (keyOf(finding))}<SeverityMark severity={finding.severity} />{/each}
      </span>
    </span>
    <span class="label text-right whitespace-nowrap">{view.instrument ? amountWords(step) : ''}</span>
    <span class="col-span-2 col-start-2 flex min-w-0 items-center gap-1">
      <span class="label min-w-0 grow truncate" title={withWhat}>{withWhat}</span>
      {#if step.wait_s}
        <span class="label flex shrink-0 items-center gap-0.5"
          ><Hourglass size={11} aria-hidden="true" /><span class="sr-only">then wait </span>{waitWords(
            step.wait_s,
          )}</span
        >
      {/if}
    </span>
    {#if against.length}<span class="col-span-2 col-start-2 text-xs font-semibold"
        >clashes with {against.join(', ')}</span
      >{/if}
  </button>
</li>
