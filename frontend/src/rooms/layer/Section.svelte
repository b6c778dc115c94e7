<script lang="ts">
  import type { Workbench, Zone } from '../../api/client';
  import { words } from '../../parts/vocabulary.svelte';
  import Choice from '../../parts/Choice.svelte';
  import PictureButtons from '../../parts/PictureButtons.svelte';
  import CellStory from './CellStory.svelte';
  import { Dragging } from './dragging';
  import { lying } from './lies';
  import type { Moving } from './moving.svelte';
  import SectionKey from './SectionKey.svelte';
  import { cellsOf, COLUMN, columnsOf, dropsOf, placeAt, walked, type Cell, type Cursor } from './section';
  import SectionDrops from './SectionDrops.svelte';

  interface Props {
    plan: Workbench;
    at: number;
    pointed: Zone | null;
    onchoose: (step: number) => void;
    onpoint: (zone: Zone | null) => void;
    /** Height of the scale in µm, where several sections stand side by side. */
    tallest?: number;
    label?: string;
    /** Without the key below it. */
    quiet?: boolean;
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
    pointed,
    onchoose,
    onpoint,
    tallest = 0,
    label = 'Section through the base',
    quiet = false,
    spare = false,
    moving,
    picked = [],
    onpick,
  }: Props = $props();
  const uid = $props.id();

  const LEFT = 34;
  const TOP = 14;
  const PLOT = 252;
  const SKIN = 18;
  const LABELS = 112;

  let sides = $state<'both' | 'l' | 'r'>('both');
  let scaled = $state<'ceilings' | 'films'>('ceilings');
  let drawing = $state<SVGSVGElement>();

  const all = $derived(words.all?.zones ?? []);
  const zones = $derived(all.filter((zone) => sides === 'both' || !zone.side || zone.side === sides));
  const columns = $derived(columnsOf(plan, all, zones));
  const cells = $derived(cellsOf(plan, all, zones));
  const most = $derived(
    Math.max(
      ...columns.map((column) => (scaled === 'films' ? column.load : Math.max(column.limit, column.load))),
      tallest,
      scaled === 'films' ? 2 : 10,
    ) * 1.04,
  );
  /** How each column lies once the chosen step is done, told by shape. */
  const lies = $derived(at < 0 || quiet ? '' : (plan.states[at] ?? ''));
  const lyingOn = (zone: Zone) => lying(lies[all.findIndex((each) => each.id === zone)]);

  const scale = $derived(PLOT / most);
  const width = $derived((columns.at(-1)?.x ?? 0) + COLUMN + LEFT + 4);
  const y = (um: number) => TOP + PLOT - um * scale;
  const ticks = $derived(Array.from({ length: Math.floor(most / 5) + 1 }, (_, i) => i * 5));
  const regions = $derived(
    (words.all?.regions ?? []).flatMap((region) => {
      const own = columns.filter((column) => column.region === region.id);
      const first = own[0];
      const last = own.at(-1);
      return first && last ? [{ words: region.words, x: first.x, w: last.x + COLUMN - first.x }] : [];
    }),
  );

  /** What still shows of shade and light, by zone: a ghost of what lies beneath. */
  const ghosts = $derived(
    plan.read_through.flatMap((row) => {
      const cell = cells.find((each) => each.zone === row.zone && plan.steps[each.step]?.kind === row.kind);
      const column = columns.find((each) => each.zone === row.zone);
      return cell && column
        ? [{ cell, column, percent: Math.max(0, Math.round(row.percent)), key: row.zone + row.kind }]
        : [];
    }),
  );

  let cursor = $state<Cursor | null>(null);
  const focus = $derived.by((): Cell | null => {
    if (!cursor) return null;
    const here = cells.filter((cell) => cell.column === cursor?.zone);
    return here.find((cell) => cell.step === cursor?.step) ?? null;
  });
  const told = $derived.by(() => {
    const cell = focus;
    if (!cell) {
      const column = columns.find((each) => each.zone === pointed);
      return column
        ? `${words.zone(column.zone)}: ${column.load.toFixed(1)} µm of the ${column.limit.toFixed(1)} µm it carries.`
        : quiet
          ? ''
          : `Each column is a zone, cut through: skin at the foot, layers to scale, each in the colour it shows.${
              moving ? ' Arrow keys walk, Space picks a zone, a layer can be dragged.' : ''
            }`;
    }
    const step = plan.steps[cell.step];
    const product = step?.product ? plan.products[step.product]?.name : '';
    const amount =
      cell.powder > 0 ? `${cell.powder.toFixed(2)} mg/cm² of powder` : `${cell.um.toFixed(1)} µm`;
    return `${words.zone(cell.zone)} · ${words.step(step?.kind ?? '')}${product ? `, ${product}` : ''} · ${amount} · shows ${cell.hex}. ${step?.why?.[0] ?? ''}`;
  });

  const storied = $derived(quiet || moving?.step ? null : focus);
  const column = $derived(storied ? columns[storied.column] : undefined);
  /** The story stands beside the column, on the side that has room. */
  const storyAt = $derived.by(() => {
    if (!column) return null;
    const x = LEFT + column.x;
    return x < width / 2
      ? { left: `${(100 * (x + COLUMN + 4)) / width}%`, right: 'auto' }
      : { left: 'auto', right: `${(100 * (width - x + 5)) / width}%` };
  });

  const dragging = new Dragging<Cell>((cell) => {
    const step = plan.steps[cell.step];
    cursor = null;
    if (step) void moving?.pick(step, false);
  });

  function drag(event: PointerEvent) {
    const cell = dragging.moved(event);
    const matrix = drawing?.getScreenCTM();
    if (!cell || !matrix || !moving?.gaps.length) return;
    const height = (event.clientY - matrix.f) / matrix.d;
    moving.holdAt(placeAt(cell, (TOP + PLOT - height) / scale, cells));
  }

  const drops = $derived(
    moving?.step && moving.gap && !moving.gap.here
      ? dropsOf(plan, moving.step, moving.gap.before, columns, cells)
      : [],
  );

  function point(cell: Cell) {
    if (dragging.underway) return;
    cursor = { zone: cell.column, step: cell.step };
    onpoint(cell.zone);
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

<svelte:window
  onpointermove={drag}
  onpointerup={() => dragging.up() && moving?.step && void moving.put()}
  onpointercancel={() => dragging.up() && moving?.leave()}
/>

<figure class="flex min-h-0 flex-col">
  <!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
  <div
    class="relative overflow-x-auto"
    role="group"
    aria-label={label}
    aria-describedby="{uid}-told"
    tabindex="0"
    onkeydown={walk}
    onblur={leave}
  >
    <svg
      viewBox="0 0 {width} {TOP + PLOT + SKIN + LABELS}"
      bind:this={drawing}
      class="block h-auto w-full min-w-[490px]"
      role="presentation"
      onpointerleave={leave}
    >
      <defs>
        <pattern id="{uid}-grain" width="4" height="4" patternUnits="userSpaceOnUse">
          <circle cx="1" cy="1" r="0.75" fill="#000" opacity="0.5" />
          <circle cx="3" cy="3" r="0.75" fill="#fff" opacity="0.9" />
        </pattern>
        <pattern
          id="{uid}-over"
          width="5"
          height="5"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <rect width="2" height="5" fill="var(--ink)" />
        </pattern>
      </defs>

      {#each ticks as tick (tick)}
        <line x1={LEFT - 4} x2={width} y1={y(tick)} y2={y(tick)} stroke="var(--line)" stroke-width="0.6" />
        <text x={LEFT - 7} y={y(tick) + 3.5} text-anchor="end" font-size="10" fill="var(--quiet)">{tick}</text
        >
      {/each}
      <text x="2" y="9" font-size="10" fill="var(--quiet)">µm</text>

      {#each columns as column (column.zone)}
        <rect
          x={LEFT + column.x}
          y={y(0)}
          width={COLUMN - 1}
          height={SKIN}
          fill={column.skin}
          role="presentation"
          onpointerenter={() => onpoint(column.zone)}
        />
        {#if column.limit > 0 && column.limit <= most}
          <line
            x1={LEFT + column.x}
            x2={LEFT + column.x + COLUMN - 1}
            y1={y(column.limit)}
            y2={y(column.limit)}
            stroke="var(--ink)"
            stroke-width="1.4"
          />
        {/if}
      {/each}

      <line x1={LEFT} x2={width - 4} y1={y(0)} y2={y(0)} stroke="var(--ink)" stroke-width="1.6" />
      {#each columns as column (column.zone)}
        {@const state = lyingOn(column.zone)}
        {#if state}
          <g
            transform="translate({LEFT + column.x + (COLUMN - 1) / 2} {y(0) + SKIN / 2})"
            fill="none"
            stroke-linecap="round"
            pointer-events="none"
          >
            <path d={state.path} stroke="#fff" stroke-width="4" stroke-opacity="0.8" />
            <path d={state.path} stroke="#111" stroke-width="1.8" />
          </g>
        {/if}
      {/each}
      {#each cells as cell (`${cell.stepId}-${cell.zone}`)}
        {@const top = y(cell.from + cell.um)}
        {@const tall = Math.max(cell.um * scale, 0.8)}
        {@const x = LEFT + (columns[cell.column]?.x ?? 0)}
        {@const on = cell.step <= at || at < 0}
        <g
          role="presentation"
          opacity={moving?.step?.id === cell.stepId ? 0.35 : on ? 1 : 0.22}
          class={moving ? 'cursor-grab' : ''}
          onpointerenter={() => point(cell)}
          onpointerdown={(event) => moving && !moving.step && dragging.down(event, cell)}
          onclick={() => dragging.clicked() && onchoose(cell.step)}
        >
          <rect
            {x}
            y={top}
            width={COLUMN - 1}
            height={tall}
            fill={cell.hex}
            stroke="#000"
            stroke-opacity="0.28"
            stroke-width="0.5"
          />
          {#if cell.powder > 0}
            <rect {x} y={top} width={COLUMN - 1} height={tall} fill="url(#{uid}-grain)" />
          {/if}
          {#if cell.step === at}
            <rect
              x={x + 0.6}
              y={top + 0.6}
              width={COLUMN - 2.2}
              height={Math.max(tall - 1.2, 0.8)}
              fill="none"
              stroke="var(--accent)"
              stroke-width="2"
            />
          {/if}
          {#if focus === cell}
            <rect
              x={x - 1.5}
              y={top - 1.5}
              width={COLUMN + 2}
              height={tall + 3}
              fill="none"
              stroke="var(--ink)"
              stroke-width="1.5"
            />
          {/if}
        </g>
      {/each}

      {#each ghosts as ghost (ghost.key)}
        <g pointer-events="none">
          <rect
            x={LEFT + ghost.column.x + 2.5}
            y={y(ghost.cell.from + ghost.cell.um) + 1.5}
            width={COLUMN - 6}
            height={Math.max(ghost.cell.um * scale - 3, 1)}
            fill="none"
            stroke="var(--ink)"
            stroke-width="0.9"
            stroke-dasharray="2 1.6"
            opacity={0.35 + (0.65 * Math.min(ghost.percent, 100)) / 100}
          />
          <text
            x={LEFT + ghost.column.x + COLUMN / 2 - 0.5}
            y={y(ghost.column.load) - 4}
            text-anchor="middle"
            font-size="8.5"
            fill="var(--quiet)">{ghost.percent}</text
          >
        </g>
      {/each}

      {#each columns.filter((column) => column.load > column.limit) as column (column.zone)}
        <rect
          x={LEFT + column.x}
          y={y(column.load)}
          width={COLUMN - 1}
          height={(column.load - column.limit) * scale}
          fill="url(#{uid}-over)"
          pointer-events="none"
        />
        <path d="M{LEFT + column.x + 4} {y(column.load) - 3} h9 l-4.5 -8 z" fill="var(--ink)" />
      {/each}

      <SectionDrops {drops} refused={Boolean(moving?.gap?.refused)} left={LEFT} {y} />

      {#each columns.filter((column) => picked.includes(column.zone)) as column (column.zone)}
        <rect
          x={LEFT + column.x}
          y={TOP + PLOT + SKIN + 1}
          width={COLUMN - 1}
          height={LABELS - 18}
          fill="var(--accent-soft)"
          stroke="var(--accent)"
        />
      {/each}
      {#each columns as column (column.zone)}
        {@const chosen = picked.includes(column.zone)}
        <g
          role="presentation"
          class={onpick ? 'cursor-pointer' : ''}
          onpointerenter={() => onpoint(column.zone)}
          onclick={() => onpick?.(column.zone)}
        >
          <rect
            x={LEFT + column.x}
            y={TOP + PLOT + SKIN + 1}
            width={COLUMN - 1}
            height={LABELS - 18}
            fill="transparent"
          />
          <text
            transform="translate({LEFT + column.x + COLUMN / 2 + 2} {TOP + PLOT + SKIN + 5}) rotate(90)"
            font-size="10.5"
            fill="var(--ink)"
            font-weight={chosen || pointed === column.zone ? 700 : 400}>{words.zone(column.zone)}</text
          >
        </g>
      {/each}
      {#each regions as region (region.words)}
        <text
          x={LEFT + region.x + region.w / 2}
          y={TOP + PLOT + SKIN + LABELS - 3}
          text-anchor="middle"
          font-size="10.5"
          fill="var(--quiet)">{region.w > 45 ? region.words : ''}</text
        >
      {/each}
    </svg>
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
        value={scaled}
        options={[
          { id: 'ceilings', words: 'To the ceilings' },
          { id: 'films', words: 'To the films' },
        ]}
        onchoose={(next) => (scaled = next)}
      />
      <span class="label">{(PLOT / most).toFixed(1)} px a µm</span>
      <span class="ml-auto"><PictureButtons {drawing} name="{plan.nickname}-section" of="the section" /></span
      >
    </div>
  {/if}
  <figcaption
    id="{uid}-told"
    class="mt-1 flex flex-wrap items-center gap-x-4 gap-y-1 {spare ? 'text-sm' : 'text-xs'}"
    aria-live="polite"
  >
    <span class="grow">{told}</span>
    {#if !quiet}<SectionKey grain="{uid}-grain" over="{uid}-over" />{/if}
  </figcaption>
</figure>
