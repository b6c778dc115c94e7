<script lang="ts">
  import { Dragging } from './dragging';
  import type { Moving } from './moving.svelte';
  import { COLUMN, placeAt, yOf, type Cell, type Column, type Frame } from './section';
  import type { Step } from '../../api/client';

  interface Props {
    cells: Cell[];
    columns: Column[];
    frame: Frame;
    steps: Step[];
    /** Index of the chosen step: what comes after it is faint. */
    at: number;
    chosen: number;
    focus: Cell | null;
    /** Pattern of powder. */
    grain: string;
    drawing?: SVGSVGElement | undefined;
    moving?: Moving | undefined;
    onpoint: (cell: Cell | null) => void;
    onchoose: (step: number) => void;
  }

  let { cells, columns, frame, steps, at, chosen, focus, grain, drawing, moving, onpoint, onchoose }: Props =
    $props();

  const dragging = new Dragging<Cell>((cell) => {
    const step = steps[cell.step];
    onpoint(null);
    if (step) void moving?.pick(step, false);
  });

  function drag(event: PointerEvent) {
    const cell = dragging.moved(event);
    const matrix = drawing?.getScreenCTM();
    if (!cell || !matrix || !moving?.gaps.length) return;
    const height = (event.clientY - matrix.f) / matrix.d;
    moving.holdAt(placeAt(cell, (frame.top + frame.plot - height) / frame.scale, cells));
  }
</script>

<svelte:window
  onpointermove={drag}
  onpointerup={() => dragging.up() && moving?.step && void moving.put()}
  onpointercancel={() => dragging.up() && moving?.leave()}
/>

{#each cells as cell (`${cell.stepId}-${cell.zone}`)}
  {@const top = yOf(frame, cell.from + cell.um)}
  {@const tall = Math.max(cell.um * frame.scale, 0.8)}
  {@const x = frame.left + (columns[cell.column]?.x ?? 0)}
  <!-- Faintness of fill and line, not of the group: a group that is faint is a layer of its own to the browser. -->
  {@const alpha = moving?.step?.id === cell.stepId ? 0.35 : cell.step <= at || at < 0 ? 1 : 0.22}
  <g
    role="presentation"
    class={moving ? 'cursor-grab' : ''}
    onpointerenter={() => !dragging.underway && onpoint(cell)}
    onpointerdown={(event) => moving && !moving.step && dragging.down(event, cell)}
    onclick={() => dragging.clicked() && onchoose(cell.step)}
  >
    <rect
      {x}
      y={top}
      width={COLUMN - 1}
      height={tall}
      fill={cell.hex}
      fill-opacity={alpha}
      stroke="#000"
      stroke-opacity={0.28 * alpha}
      stroke-width="0.5"
    />
    {#if cell.powder > 0}
      <rect {x} y={top} width={COLUMN - 1} height={tall} fill="url(#{grain})" fill-opacity={alpha} />
    {/if}
    {#if cell.step === chosen}
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
