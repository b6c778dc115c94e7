<script lang="ts">
  import type { ClassShown } from '../../api/client';
  import { markEvery } from '../pace/score';
  import { hour } from './hours';
  import { lanesOf, type Stretch } from './lanes';

  interface Props {
    found: ClassShown;
    /** A block is dragged to begin at so many seconds. */
    onpin: (step: string, at: number) => void;
    fixed: boolean;
  }

  let { found, onpin, fixed }: Props = $props();
  const NAMES = 104;
  const TALL = { Lesson: 30, Educators: 20, Stations: 16, Students: 16 } as Record<string, number>;
  const GAP = 3;
  let room = $state(1000);
  let held = $state.raw<{ key: string; from: number; by: number } | null>(null);
  let pointed = $state('');
  const length = $derived(Math.max(60, found.length_s, found.room_s ?? 0));
  /** A minute gets room enough to tell checks apart; a long evening is scrolled. */
  const scale = $derived(Math.max((room - NAMES - 16) / length, 4 / 60));
  const width = $derived(length * scale);
  const every = $derived(markEvery(length, width));
  const marks = $derived(Array.from({ length: Math.floor(length / every) + 1 }, (_, n) => n * every));
  const x = (seconds: number) => NAMES + seconds * scale;
  const lanes = $derived(lanesOf(found));
  const placed = $derived.by(() => {
    let top = 22;
    let last = '';
    return lanes.map((lane) => {
      const heading = lane.group !== last && lane.group !== 'Lesson' ? lane.group : '';
      if (heading) top += 18;
      last = lane.group;
      const own = { ...lane, heading, top, tall: TALL[lane.group] ?? 16 };
      top += own.tall + GAP;
      return own;
    });
  });
  const height = $derived((placed.at(-1)?.top ?? 0) + (placed.at(-1)?.tall ?? 0) + 10);
  const blocks = $derived(found.lesson.blocks.filter((each) => each.phase === 'demonstrate').length);

  /** Blocks are told apart by how much of the accent they carry, and by their number in words. */
  function fill(each: Stretch): string {
    if (each.kind === 'break') return 'url(#pause)';
    if (each.kind === 'watch' || each.kind === 'wait' || each.block === null) return 'var(--well)';
    const share = 12 + (each.block * 46) / Math.max(1, blocks - 1);
    return `color-mix(in oklab, var(--accent) ${share}%, var(--panel))`;
  }

  const quiet = (each: Stretch) => each.kind === 'watch' || each.kind === 'wait';

  function grab(event: PointerEvent & { currentTarget: SVGGElement }, each: Stretch) {
    if (fixed || !each.step || event.button) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    held = { key: each.key, from: event.clientX, by: 0 };
  }

  function drop(each: Stretch) {
    const drag = held;
    held = null;
    if (drag && each.step && Math.abs(drag.by) > 4)
      onpin(each.step, Math.max(0, Math.round((each.from + drag.by / scale) / 60) * 60));
  }
</script>

<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
<div
  class="overflow-x-auto"
  role="group"
  aria-label="The clock, scrolled sideways"
  tabindex="0"
  bind:clientWidth={room}
>
  <svg
    width={NAMES + width + 12}
    {height}
    role="img"
    aria-label="Time runs across; lanes for the lesson, educators, stations and students. The lists below say the same."
  >
    <defs>
      <pattern id="pause" width="6" height="6" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <rect width="6" height="6" fill="var(--well)" /><rect width="1.5" height="6" fill="var(--quiet)" />
      </pattern>
    </defs>
    {#each marks as at (at)}
      <line x1={x(at)} x2={x(at)} y1="16" y2={height} stroke="var(--line)" opacity="0.6" />
      <text x={x(at) + 3} y="12" font-size="11" fill="var(--quiet)" class="tabular-nums"
        >{hour(found.room.start, at, found.jumps)}</text
      >
    {/each}
    {#if found.room_s !== null}
      <line
        x1={x(found.room_s)}
        x2={x(found.room_s)}
        y1="2"
        y2={height}
        stroke="var(--stop)"
        stroke-width="2"
        stroke-dasharray="5 3"
      />
      <text x={x(found.room_s) - 4} y={height - 2} font-size="11" text-anchor="end" fill="var(--stop)"
        >room until {found.room.until}</text
      >
    {/if}
    {#each placed as lane (lane.id)}
      {#if lane.heading}
        <text x="2" y={lane.top - 5} font-size="11" font-weight="600" fill="var(--quiet)">{lane.heading}</text
        >
      {/if}
      <text x="2" y={lane.top + lane.tall / 2 + 4} font-size="12" fill="var(--ink)"
        >{lane.words.length > 14 ? `${lane.words.slice(0, 13)}…` : lane.words}<title>{lane.words}</title
        ></text
      >
      {#each lane.stretches as each (each.key)}
        {@const wide = Math.max(1.2, (each.to - each.from) * scale - 0.6)}
        <!-- svelte-ignore a11y_no_static_element_interactions -->
        <g
          class={each.step && !fixed ? 'cursor-grab touch-none' : ''}
          transform={held?.key === each.key && each.step ? `translate(${held.by} 0)` : undefined}
          onpointerenter={() => (pointed = each.title)}
          onpointerleave={() => (pointed = '')}
          onpointerdown={(event) => grab(event, each)}
          onpointermove={(event) => {
            if (held?.key === each.key) held = { ...held, by: event.clientX - held.from };
          }}
          onpointerup={() => drop(each)}
          onpointercancel={() => (held = null)}
        >
          <title>{each.title}</title>
          <rect
            x={x(each.from)}
            y={lane.top}
            width={wide}
            height={lane.tall}
            rx="2"
            fill={fill(each)}
            stroke={quiet(each) ? 'var(--line)' : 'var(--quiet)'}
            stroke-width={each.kind === 'check' ? 1.4 : 0.7}
          />
          {#if each.step && found.room.pins?.[each.step] !== undefined}
            <circle cx={x(each.from)} cy={lane.top} r="4.5" fill="var(--accent)" stroke="var(--panel)" />
          {/if}
          {#if wide > each.says.length * 6.3 + 6 && !quiet(each)}
            <text
              x={x(each.from) + 4}
              y={lane.top + lane.tall / 2 + 4}
              font-size="11"
              fill="var(--ink)"
              class="pointer-events-none">{each.says}</text
            >
          {:else if wide > 14 && each.block !== null && !quiet(each) && each.kind !== 'check'}
            <text
              x={x(each.from) + 3}
              y={lane.top + lane.tall / 2 + 4}
              font-size="11"
              fill="var(--ink)"
              class="pointer-events-none">{each.block + 1}</text
            >
          {/if}
        </g>
      {/each}
    {/each}
  </svg>
</div>
<p class="label min-h-4 px-1" aria-hidden="true">{pointed}</p>
