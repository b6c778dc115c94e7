<script lang="ts">
  import { namesOf } from '../../plan/steps';
  import type { Workbench, Zone } from '../../api/client';
  import { view } from '../../parts/view.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import Choice from '../../parts/Choice.svelte';
  import PictureButtons from '../../parts/PictureButtons.svelte';
  import CellStory from './CellStory.svelte';
  import type { Moving } from './moving.svelte';
  import {
    cellsOf,
    COLUMN,
    columnsOf,
    frameOf,
    measured,
    ghostsOf,
    reachOf,
    SCALES,
    walked,
    type Cell,
    type Cursor,
    type Scale,
  } from './section';
  import SectionDrawing from './SectionDrawing.svelte';
  import SectionKey from './SectionKey.svelte';

  interface Props {
    plan: Workbench;
    at: number;
    /** The step whose layer is marked, where it is not the last one shown. */
    chosen?: number;
    pointed: Zone | null;
    onchoose: (step: number) => void;
    onpoint: (zone: Zone | null) => void;
    /** Height of the scale in µm, where several sections stand on one scale. */
    tallest?: number;
    /** Height of the drawing over the skin, in its own units. */
    plot?: number;
    label?: string;
    /** The drawing alone, as one of several. */
    quiet?: boolean;
    /** With the names of zones under the skin. */
    named?: boolean;
    /** With the key but without controls, for showing. */
    spare?: boolean;
    /** Lets layers be dragged to another place in the order. */
    moving?: Moving;
    /** Zones picked, and what to do when one is picked by its name. */
    picked?: readonly Zone[];
    onpick?: (zone: Zone) => void;
  }

  let {
    plan,
    at,
    chosen = at,
    pointed,
    onchoose,
    onpoint,
    tallest = 0,
    plot = 320,
    label = 'Section through the base',
    quiet = false,
    named = true,
    spare = false,
    moving,
    picked = [],
    onpick,
  }: Props = $props();
  const uid = $props.id();
  const SCALE_WORDS: Partial<Record<Scale, string>> = { ceilings: 'To the ceilings', films: 'To the films' };

  let sides = $state<'both' | 'l' | 'r'>('both');
  let scale = $state<Scale>('ceilings');
  let drawing = $state<SVGSVGElement>();
  let cursor = $state<Cursor | null>(null);

  const all = $derived(words.all?.zones ?? []);
  const zones = $derived(all.filter((zone) => sides === 'both' || !zone.side || zone.side === sides));
  const cells = $derived(cellsOf(plan, all, zones, at));
  const columns = $derived(columnsOf(plan, all, zones, cells));
  const ghosts = $derived(ghostsOf(plan, columns, cells));
  const frame = $derived(frameOf(columns, reachOf(columns, scale, tallest), plot, named));

  const focus = $derived.by((): Cell | null => {
    if (!cursor) return null;
    const here = cells.filter((cell) => cell.column === cursor?.zone);
    return here.find((cell) => cell.step === cursor?.step) ?? null;
  });
  const told = $derived(focus ? toldOf(focus) : toldOfZone());
  const storied = $derived(quiet || moving?.step ? null : focus);
  const column = $derived(storied ? columns[storied.column] : undefined);
  /** The story stands beside the column, on the side that has room. */
  const storyAt = $derived.by(() => {
    if (!column) return null;
    const x = frame.left + column.x;
    return x < frame.width / 2
      ? { left: `${(100 * (x + COLUMN + 4)) / frame.width}%`, right: 'auto' }
      : { left: 'auto', right: `${(100 * (frame.width - x + 5)) / frame.width}%` };
  });

  function toldOf(cell: Cell): string {
    const step = plan.steps[cell.step];
    const product = step ? namesOf(step, plan.products) : '';
    const figures = view.instrument ? ` · ${measured(cell)} · shows ${cell.hex}` : '';
    return `${words.zone(cell.zone)} · ${words.step(step?.kind ?? '')}${product ? `, ${product}` : ''}${figures}. ${step?.why?.[0] ?? ''}`;
  }

  function toldOfZone(): string {
    const column = columns.find((each) => each.zone === pointed);
    if (column)
      return `${words.zone(column.zone)}: ${column.load.toFixed(1)} µm of the ${column.limit.toFixed(1)} µm it carries.`;
    const how =
      'Each column is a zone, cut through: skin at the foot, layers to scale, each in the colour it shows.';
    return moving ? `${how} Arrow keys walk, Space picks a zone, a layer can be dragged.` : how;
  }

  function point(cell: Cell | null) {
    cursor = cell && { zone: cell.column, step: cell.step };
    if (cell) onpoint(cell.zone);
  }

  function leave() {
    cursor = null;
    onpoint(null);
  }

  function walk(event: KeyboardEvent) {
    const zone = cursor && columns[cursor.zone]?.zone;
    const next = walked(cursor, event.key, columns, cells);
    if (next) {
      cursor = next;
      onpoint(columns[next.zone]?.zone ?? null);
    } else if (event.key === 'Enter' && cursor) onchoose(cursor.step);
    else if (event.key === ' ' && zone && onpick) onpick(zone);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }
</script>

<figure class="flex min-h-0 flex-col">
  <!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
  <div
    class="relative overflow-x-auto"
    role="group"
    aria-label={label}
    aria-describedby={quiet ? undefined : `${uid}-told`}
    tabindex="0"
    onkeydown={walk}
    onblur={leave}
  >
    <SectionDrawing
      {plan}
      {columns}
      {cells}
      {ghosts}
      {frame}
      {at}
      {chosen}
      {focus}
      {pointed}
      {named}
      stated={!quiet}
      beyond={scale !== 'ceilings'}
      {moving}
      {picked}
      bind:drawing
      onpoint={point}
      onzone={onpoint}
      onleave={leave}
      {onchoose}
      {onpick}
    />
    {#if storied && column && storyAt}
      <div
        class="no-print pointer-events-none absolute top-1 z-10 w-64 rounded-sm border-2 border-ink bg-well p-2 text-xs shadow-lg"
        style:left={storyAt.left}
        style:right={storyAt.right}
        aria-hidden="true"
      >
        <CellStory
          {plan}
          cell={storied}
          {column}
          stack={cells.filter((each) => each.column === storied.column)}
        />
      </div>
    {/if}
  </div>
  {#if !quiet && !spare}
    <div class="no-print mt-1 flex flex-wrap items-center gap-2 text-xs">
      <Choice
        label="Sides"
        value={sides}
        options={[
          { id: 'both', words: 'Both sides' },
          { id: 'r', words: 'Right side and middle' },
          { id: 'l', words: 'Left side and middle' },
        ]}
        onchoose={(next) => (sides = next)}
      />
      <Choice
        label="Scale"
        value={scale}
        options={SCALES.map((id) => ({ id, words: SCALE_WORDS[id] ?? `${id} µm high` }))}
        onchoose={(next) => (scale = next)}
      />
      <span class="label">{frame.scale.toFixed(1)} px a µm</span>
      <span class="ml-auto"><PictureButtons {drawing} name="{plan.nickname}-section" of="the section" /></span
      >
    </div>
  {/if}
  {#if !quiet}
    <figcaption
      id="{uid}-told"
      class="mt-1 flex flex-wrap items-center gap-x-4 gap-y-1 {spare ? 'text-sm' : 'text-xs'}"
      aria-live="polite"
    >
      <!-- Two lines always, so that what is told moves nothing; the story beside the column tells the rest. -->
      <span class="line-clamp-2 min-h-[2lh] grow basis-full">{told}</span>
      <SectionKey />
    </figcaption>
  {/if}
</figure>
