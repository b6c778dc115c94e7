<script lang="ts">
  import { COLUMN, yOf, type Column, type Frame, type Ghost } from './section';

  interface Props {
    columns: Column[];
    frame: Frame;
    ghosts: Ghost[];
    /** Pattern of what lies over a ceiling. */
    over: string;
    /** Clip of the part that is to scale. */
    plot: string;
    /** Whether ceilings out of the drawing are told at its top. */
    beyond: boolean;
  }

  /** What is told over the layers: ceilings, where they are broken, what reads through, what is out of the drawing. */
  let { columns, frame, ghosts, over, plot, beyond }: Props = $props();
  const x = (column: Column) => frame.left + column.x;
  const y = (um: number) => yOf(frame, um);
</script>

<g pointer-events="none">
  {#each columns as column (column.zone)}
    {#if column.limit > 0 && column.limit <= frame.most}
      <line
        x1={x(column)}
        x2={x(column) + COLUMN - 1}
        y1={y(column.limit)}
        y2={y(column.limit)}
        stroke="var(--ink)"
        stroke-width="1.4"
      />
    {:else if beyond && column.limit > 0 && column.load <= column.limit}
      <text
        x={x(column) + COLUMN / 2 - 0.5}
        y={frame.top - 5}
        text-anchor="middle"
        font-size="8"
        fill="var(--quiet)">↑{column.limit.toFixed(0)}</text
      >
    {/if}
  {/each}

  <g clip-path="url(#{plot})">
    {#each ghosts as ghost (ghost.key)}
      <rect
        x={x(ghost.column) + 2.5}
        y={y(ghost.cell.from + ghost.cell.um) + 1.5}
        width={COLUMN - 6}
        height={Math.max(ghost.cell.um * frame.scale - 3, 1)}
        fill="none"
        stroke="var(--ink)"
        stroke-width="0.9"
        stroke-dasharray="2 1.6"
        opacity={0.35 + (0.65 * Math.min(ghost.percent, 100)) / 100}
      />
    {/each}
  </g>
  {#each ghosts as ghost (ghost.key)}
    <text
      x={x(ghost.column) + COLUMN / 2 - 0.5}
      y={Math.max(y(ghost.column.height) - 4, frame.top + 13)}
      text-anchor="middle"
      font-size="8.2"
      fill="var(--ink)"
      stroke="var(--panel)"
      stroke-width="2.4"
      paint-order="stroke">{ghost.percent}</text
    >
  {/each}

  {#each columns.filter((column) => column.load > column.limit) as column (column.zone)}
    {@const top = Math.max(y(column.load), frame.top)}
    {#if column.limit < frame.most}
      <rect x={x(column)} y={top} width={COLUMN - 1} height={y(column.limit) - top} fill="url(#{over})" />
    {/if}
    <path d="M{x(column) + 4} {top - 3} h9 l-4.5 -8 z" fill="var(--ink)" />
  {/each}

  {#each columns.filter((column) => column.height > frame.most) as column (column.zone)}
    <!-- The column goes on: a torn edge, and how high it is. -->
    <path
      d="M{x(column) - 0.5} {frame.top + 3} l3 -4 l3 4 l3 -4 l3 4 l3 -4 l3 4"
      fill="none"
      stroke="var(--ink)"
      stroke-width="1.4"
    />
    <text
      transform="translate({x(column) + COLUMN / 2 - 3.5} {frame.top + 17}) rotate(90)"
      font-size="9"
      fill="var(--ink)"
      stroke="var(--panel)"
      stroke-width="2.4"
      paint-order="stroke">{column.height.toFixed(1)} µm</text
    >
  {/each}
</g>
