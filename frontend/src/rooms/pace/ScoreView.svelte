<script lang="ts">
  import type { Score } from '../../api/client';
  import { words } from '../../parts/vocabulary.svelte';
  import { clock, timeOfDay } from './clock';
  import { axisOf, darkInk, lanesOf, markEvery, type Bar } from './score';

  interface Props {
    score: Score;
    start: string;
    pointed: string | null;
    onpoint: (step: string | null) => void;
    pins: Partial<Record<string, number>>;
    onpin: (step: string, at: number) => void;
  }

  let { score, start, pointed, onpoint, pins, onpin }: Props = $props();
  /** A bar that is being dragged: how far, in pixels. */
  let held = $state.raw<{ bar: Bar; from: number; by: number } | null>(null);

  const NAMES = 132;
  const TALL = { hands: 40, rest: 16, tool: 16 } as const;
  let room = $state(1000);
  /** Every minute gets room enough to be read; a long base is scrolled. */
  const length = $derived(Math.max(1, score.timetable.length_s ?? 1));
  const axis = $derived(axisOf(score, room - NAMES - 12, 36));
  const width = $derived(axis.width);
  const lanes = $derived(
    lanesOf(
      score,
      (id) => words.all?.regions.find((each) => each.id === id)?.words ?? id,
      (of) => {
        const [tool, number] = of.split(' ');
        return `${words.tool(tool ?? '')}${number && number !== '1' ? ` ${number}` : ''}`;
      },
    ),
  );
  const kindOf = (id: string) => (id === 'hands' ? 'hands' : id.startsWith('rest') ? 'rest' : 'tool');
  const placed = $derived.by(() => {
    let top = 36;
    let last = '';
    return lanes.map((lane) => {
      const kind = kindOf(lane.id);
      const heading = kind !== last && kind !== 'hands' ? (kind === 'rest' ? 'At rest' : 'Tools') : '';
      if (heading) top += 22;
      last = kind;
      const own = {
        ...lane,
        kind,
        heading,
        top,
        row: TALL[kind],
        height: lane.rows.length * (TALL[kind] + 3),
      };
      top += own.height + 5;
      return own;
    });
  });
  const height = $derived((placed.at(-1)?.top ?? 0) + (placed.at(-1)?.height ?? 0) + 8);
  const every = $derived(markEvery(length, width));
  /** Marks where there is room for them: none within a stretch that is drawn short. */
  const marks = $derived(
    Array.from({ length: Math.floor(length / every) + 1 }, (_, n) => n * every).filter(
      (at) => !axis.breaks.some((each) => at > each.from && at < each.to),
    ),
  );
  const x = (seconds: number) => NAMES + axis.x(seconds);

  function grab(event: PointerEvent & { currentTarget: SVGGElement }, lane: string, bar: Bar) {
    if (lane !== 'hands' || bar.kind !== 'work' || event.button) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    held = { bar, from: event.clientX, by: 0 };
  }

  function drop() {
    const drag = held;
    held = null;
    if (drag && Math.abs(drag.by) > 4) onpin(drag.bar.step, axis.at(axis.x(drag.bar.from) + drag.by));
  }

  function fill(bar: Bar) {
    if (bar.kind === 'clean') return 'url(#cleaning)';
    if (bar.kind === 'wait') return 'var(--line)';
    return bar.hex ?? 'var(--accent-soft)';
  }

  function ink(bar: Bar) {
    return bar.hex ? (darkInk(bar.hex) ? '#1a1a1a' : '#f7f7f7') : 'var(--ink)';
  }
</script>

<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
<div
  class="overflow-x-auto"
  role="group"
  aria-label="The score, scrolled sideways"
  tabindex="0"
  bind:clientWidth={room}
>
  <svg
    width={NAMES + width + 8}
    {height}
    role="img"
    aria-label="The score: time runs across; lanes for the hands, what rests on the face, and the tools. The list below says the same."
  >
    <defs>
      <pattern id="cleaning" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <rect width="6" height="6" fill="var(--well)" /><rect width="2" height="6" fill="var(--quiet)" />
      </pattern>
    </defs>
    {#each marks as at (at)}
      <line x1={x(at)} x2={x(at)} y1="18" y2={height} stroke="var(--line)" stroke-width="1" opacity="0.6" />
      <text x={x(at) + 3} y="13" font-size="11" fill="var(--quiet)" class="tabular-nums"
        >{start ? timeOfDay(start, at) : clock(at)}</text
      >
    {/each}
    {#each axis.breaks as each (each.from)}
      <rect
        x={x(each.from)}
        y="18"
        width={x(each.to) - x(each.from)}
        height={height - 18}
        fill="var(--well)"
        opacity="0.7"
      />
      <text x={(x(each.from) + x(each.to)) / 2} y="30" font-size="11" text-anchor="middle" fill="var(--quiet)"
        >rest {clock(each.to - each.from)}</text
      >
    {/each}
    {#each placed as lane (lane.id)}
      {#if lane.heading}
        <text x="2" y={lane.top - 7} font-size="11" font-weight="600" fill="var(--quiet)">{lane.heading}</text
        >
      {/if}
      <text x="2" y={lane.top + lane.row / 2 + 4} font-size="12" fill="var(--ink)">{lane.words}</text>
      {#each lane.rows as row, number (number)}
        {#each row as bar (`${bar.step} ${bar.from} ${bar.kind}`)}
          {@const wide = Math.max(1.5, x(bar.to) - x(bar.from))}
          {@const y = lane.top + number * (lane.row + 3)}
          {@const told = wide > bar.says.length * 6.4 + 8 ? bar.says : wide > 18 ? bar.short : ''}
          <!-- svelte-ignore a11y_no_static_element_interactions -->
          <g
            class={lane.id === 'hands' && bar.kind === 'work' ? 'cursor-grab touch-none' : ''}
            transform={held?.bar === bar ? `translate(${held.by} 0)` : undefined}
            onpointerenter={() => onpoint(bar.step)}
            onpointerleave={() => onpoint(null)}
            onpointerdown={(event) => grab(event, lane.id, bar)}
            onpointermove={(event) => {
              if (held?.bar === bar) held = { ...held, by: event.clientX - held.from };
            }}
            onpointerup={drop}
            onpointercancel={() => (held = null)}
          >
            <title>{clock(bar.from)} to {clock(bar.to)}: {bar.title}</title>
            <rect
              x={x(bar.from)}
              {y}
              width={wide}
              height={lane.row}
              rx="2"
              fill={fill(bar)}
              stroke={pointed === bar.step ? 'var(--accent)' : 'var(--quiet)'}
              stroke-width={pointed === bar.step ? 2.5 : 0.75}
              opacity={pointed && pointed !== bar.step ? 0.55 : 1}
            />
            {#if bar.bound}
              <rect x={x(bar.from)} y={y + lane.row + 0.5} width={wide} height="2.5" fill="var(--accent)" />
            {/if}
            {#if lane.id === 'hands' && bar.kind === 'work' && pins[bar.step] !== undefined}
              <circle cx={x(bar.from)} cy={y} r="4.5" fill="var(--accent)" stroke="var(--panel)" />
            {/if}
            {#if told}
              <text
                x={x(bar.from) + 4}
                y={y + lane.row / 2 + 4}
                font-size="11"
                fill={ink(bar)}
                class="pointer-events-none">{told}</text
              >
            {/if}
          </g>
        {/each}
      {/each}
    {/each}
  </svg>
</div>
