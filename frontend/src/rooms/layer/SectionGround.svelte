<script lang="ts">
  import type { Zone } from '../../api/client';
  import type { lying } from './lies';
  import { COLUMN, type Column, type Frame } from './section';

  interface Props {
    columns: Column[];
    frame: Frame;
    y: (um: number) => number;
    /** How a zone lies, drawn on its skin. */
    lyingOn: (zone: Zone) => ReturnType<typeof lying>;
    onzone: (zone: Zone) => void;
  }

  /** What layers stand on and are measured by: the scale, and the skin of every zone. */
  let { columns, frame, y, lyingOn, onzone }: Props = $props();
  const ticks = $derived.by(() => {
    const every = frame.most > 50 ? 10 : frame.most > 12 ? 5 : 2;
    return Array.from({ length: Math.floor(frame.most / every) + 1 }, (_, i) => i * every);
  });
</script>

{#each ticks as tick (tick)}
  <line
    x1={frame.left - 4}
    x2={frame.width}
    y1={y(tick)}
    y2={y(tick)}
    stroke="var(--line)"
    stroke-width="0.6"
  />
  <text x={frame.left - 7} y={y(tick) + 3.5} text-anchor="end" font-size="10" fill="var(--quiet)">{tick}</text
  >
{/each}
<text x="2" y="9" font-size="10" fill="var(--quiet)">µm</text>

{#each columns as column (column.zone)}
  <rect
    x={frame.left + column.x}
    y={y(0)}
    width={COLUMN - 1}
    height={frame.skin}
    fill={column.skin}
    role="presentation"
    onpointerenter={() => onzone(column.zone)}
  />
{/each}
<line x1={frame.left} x2={frame.width - 4} y1={y(0)} y2={y(0)} stroke="var(--ink)" stroke-width="1.6" />
{#each columns as column (column.zone)}
  {@const state = lyingOn(column.zone)}
  {#if state}
    <g
      transform="translate({frame.left + column.x + (COLUMN - 1) / 2} {y(0) + frame.skin / 2})"
      fill="none"
      stroke-linecap="round"
      pointer-events="none"
    >
      <path d={state.path} stroke="#fff" stroke-width="4" stroke-opacity="0.8" />
      <path d={state.path} stroke="#111" stroke-width="1.8" />
    </g>
  {/if}
{/each}
