<script lang="ts">
  import type { Workbench, Zone } from '../../api/client';
  import { words } from '../../parts/vocabulary.svelte';
  import { lying } from './lies';
  import type { Moving } from './moving.svelte';
  import { dropsOf, yOf, type Cell, type Column, type Frame, type Ghost } from './section';
  import SectionCells from './SectionCells.svelte';
  import SectionDrops from './SectionDrops.svelte';
  import SectionGround from './SectionGround.svelte';
  import SectionMarks from './SectionMarks.svelte';
  import SectionNames from './SectionNames.svelte';

  interface Props {
    plan: Workbench;
    columns: Column[];
    cells: Cell[];
    ghosts: Ghost[];
    frame: Frame;
    at: number;
    chosen?: number;
    focus: Cell | null;
    pointed: Zone | null;
    /** With the names of zones and regions at its foot. */
    named: boolean;
    /** With how each zone lies at its foot. */
    stated: boolean;
    /** With the ceilings told that are out of the drawing. */
    beyond: boolean;
    moving?: Moving | undefined;
    picked: readonly Zone[];
    drawing?: SVGSVGElement | undefined;
    onpoint: (cell: Cell | null) => void;
    onzone: (zone: Zone) => void;
    onleave: () => void;
    onchoose: (step: number) => void;
    onpick?: ((zone: Zone) => void) | undefined;
  }

  /** The cut itself, to scale: skin at the foot, layers on it, and what is told of them. */
  let {
    plan,
    columns,
    cells,
    ghosts,
    frame,
    at,
    chosen = at,
    focus,
    pointed,
    named,
    stated,
    beyond,
    moving,
    picked,
    drawing = $bindable(),
    onpoint,
    onzone,
    onleave,
    onchoose,
    onpick,
  }: Props = $props();
  const uid = $props.id();
  const grain = `${uid}-grain`;
  const over = `${uid}-over`;
  const plot = `${uid}-plot`;

  const y = (um: number) => yOf(frame, um);
  /** How each column lies once the chosen step is done, told by shape. */
  const lies = $derived(at < 0 || !stated ? '' : (plan.states[at] ?? ''));
  const zones = $derived(words.all?.zones ?? []);
  const lyingOn = (zone: Zone) => lying(lies[zones.findIndex((each) => each.id === zone)]);
  const drops = $derived(
    moving?.step && moving.gap && !moving.gap.here
      ? dropsOf(plan, moving.step, moving.gap.before, columns, cells)
      : [],
  );
</script>

<svg
  viewBox="0 0 {frame.width} {frame.height}"
  bind:this={drawing}
  class="block h-auto w-full min-w-[490px]"
  role="presentation"
  onpointerleave={onleave}
>
  <defs>
    <pattern id={grain} width="4" height="4" patternUnits="userSpaceOnUse">
      <circle cx="1" cy="1" r="0.75" fill="#000" opacity="0.5" />
      <circle cx="3" cy="3" r="0.75" fill="#fff" opacity="0.9" />
    </pattern>
    <pattern id={over} width="5" height="5" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
      <rect width="2" height="5" fill="var(--ink)" />
    </pattern>
    <clipPath id={plot}
      ><rect x="0" y={frame.top - 2} width={frame.width} height={frame.plot + frame.skin + 2} /></clipPath
    >
  </defs>

  <SectionGround {columns} {frame} {y} {lyingOn} {onzone} />

  <g clip-path="url(#{plot})">
    <SectionCells
      {cells}
      {columns}
      {frame}
      steps={plan.steps}
      {at}
      {chosen}
      {focus}
      {grain}
      {drawing}
      {moving}
      {onpoint}
      {onchoose}
    />
  </g>
  <SectionMarks {columns} {frame} {ghosts} {over} {plot} {beyond} />
  <SectionDrops {drops} refused={Boolean(moving?.gap?.refused)} left={frame.left} {y} />
  {#if named}
    <SectionNames {columns} {frame} {pointed} {picked} onpoint={onzone} {onpick} />
  {/if}
</svg>
