<script lang="ts">
  import { handOn, namesOf } from '../../plan/steps';
  import type { Workbench } from '../../api/client';
  import Swatch from '../../parts/Swatch.svelte';
  import { view } from '../../parts/view.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import { lying } from './lies';
  import { COLUMN, measured, type Cell, type Column, type Frame } from './section';

  interface Props {
    plan: Workbench;
    cell: Cell;
    column: Column;
    frame: Frame;
    /** Layers on this zone, from the skin up. */
    stack: Cell[];
  }

  let { plan, cell, column, frame, stack }: Props = $props();

  const step = $derived(plan.steps[cell.step]);
  const product = $derived(step ? namesOf(step, plan.products) : '');
  const hand = $derived(step ? handOn(step, cell.zone) : undefined);
  const place = $derived((words.all?.zones ?? []).findIndex((zone) => zone.id === cell.zone));
  const before = $derived(plan.stages[cell.step]?.[place] ?? '#808080');
  const read = $derived(plan.zones[place]);
  const came = $derived(plan.carried[cell.step] ?? []);
  const state = $derived(lying(plan.states[cell.step]?.[place]));
  const through = $derived(
    plan.read_through.find((row) => row.zone === cell.zone && row.kind === step?.kind),
  );
  const amount = $derived(
    view.instrument
      ? measured(cell)
      : plan.portions[cell.step]?.[step?.portions.findIndex((each) => each.zones?.includes(cell.zone)) ?? -1]
          ?.amount || 'Some',
  );
  const share = $derived(column.limit > 0 ? Math.round((100 * column.load) / column.limit) : 0);
  /** It stands beside the column, on the side that has room. */
  const at = $derived.by(() => {
    const x = frame.left + column.x;
    return x < frame.width / 2
      ? { left: `${(100 * (x + COLUMN + 4)) / frame.width}%`, right: 'auto' }
      : { left: 'auto', right: `${(100 * (frame.width - x + 5)) / frame.width}%` };
  });
</script>

{#if step}
  <div
    class="no-print pointer-events-none absolute top-1 z-10 w-64 rounded-control border-2 border-ink bg-well p-2 text-xs shadow-raised"
    style:left={at.left}
    style:right={at.right}
    aria-hidden="true"
  >
    <p class="label">{words.zone(cell.zone)} · layer {stack.indexOf(cell) + 1} of {stack.length} here</p>
    <p class="font-semibold">{cell.step + 1}. {words.step(step.kind)}{product ? `: ${product}` : ''}</p>
    <p class="my-1 flex items-center gap-1.5">
      <Swatch hex={before} size={20} /><span aria-hidden="true">→</span><Swatch hex={cell.hex} size={20} />
      {#if view.instrument}<span class="label">{before} → {cell.hex}</span>{/if}
    </p>
    <p class="first-letter:uppercase">
      {amount} here{view.instrument && cell.laid > cell.powder
        ? `, what is left of ${cell.laid.toFixed(2)}`
        : ''}{step.take ? `, from ${step.take.words}` : ''}{state ? `; ${state.words} when done` : ''}.
      {#if came.length}{Math.max(1, Math.round((came[0]?.share ?? 0) * 100))} % of it is {came[0]?.name} left in
        the tool.{/if}
    </p>
    {#if hand?.tool && hand.motion}
      <p class="first-letter:uppercase">
        {words.tool(hand.tool)}, {words.motion(hand.motion).toLowerCase()}.
      </p>
    {/if}
    {#if through}<p>
        {Math.max(0, Math.round(through.percent))} % of it reads through the finished base.
      </p>{/if}
    <p class="mt-1 border-t border-line pt-1">
      <b>Why here.</b>
      {#if read?.conditions.length}Read: {read.conditions
          .map((each) => `${each.words.toLowerCase()} ${each.severity}`)
          .join(', ')}.{/if}
      {(step.why ?? [])[0] ?? ''}
    </p>
    <p class="label">{share} % of what this zone carries, all layers together.</p>
  </div>
{/if}
