<script lang="ts">
  import type { Proportions, Stroke } from '../../api/client';
  import { ARROWS, type Moving, type Shift } from './inputs';
  import { pointsOf } from './proportions';

  /** Strokes that are dragged, or moved by the arrow keys. */
  interface Props extends Moving {
    of: Proportions;
    strokes: readonly Stroke[];
    chosen: string | null | undefined;
    held: Shift | null;
  }

  let {
    of,
    strokes,
    chosen,
    mm_a_unit,
    told,
    onchoose,
    onmove,
    onreset,
    held = $bindable(),
  }: Props = $props();
  const KEY_MM = 2;
  const LEAST_MM = 1;
  let from: [number, number] = [0, 0];
  let layer = $state<SVGGElement>();

  function spot(event: PointerEvent): [number, number] {
    const turn = layer?.getScreenCTM()?.inverse();
    const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(turn);
    return [at.x, at.y];
  }

  function down(event: PointerEvent & { currentTarget: SVGGElement }, stroke: Stroke) {
    if (event.button) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    onchoose(stroke);
    from = spot(event);
    held = { stroke, by: [0, 0] };
  }

  function drag(event: PointerEvent) {
    if (!held) return;
    const [x, y] = spot(event);
    held = { ...held, by: [x - from[0], y - from[1]] };
  }

  function drop() {
    if (!held) return;
    const { stroke, by } = held;
    held = null;
    const [right, below] = [by[0] * mm_a_unit, by[1] * mm_a_unit];
    if (Math.hypot(right, below) >= LEAST_MM) onmove(stroke, [right, below]);
  }

  function key(event: KeyboardEvent, stroke: Stroke) {
    const way = ARROWS[event.key];
    if (!way && event.key !== 'Home') return;
    event.preventDefault();
    if (way) onmove(stroke, [way[0] * KEY_MM, way[1] * KEY_MM]);
    else onreset(stroke);
  }
</script>

<g bind:this={layer} role="group" aria-label="Placements: drag, or focus and use the arrow keys">
  {#each strokes as stroke (stroke.id)}
    <g
      role="button"
      tabindex="0"
      aria-label={told(stroke)}
      aria-pressed={chosen === stroke.id}
      class="stroke"
      onpointerdown={(event) => down(event, stroke)}
      onpointermove={drag}
      onpointerup={drop}
      onfocus={() => onchoose(stroke)}
      onkeydown={(event) => key(event, stroke)}
    >
      <polyline points={pointsOf(stroke, of, held?.stroke.id === stroke.id ? held.by : undefined)} />
    </g>
  {/each}
</g>

<style>
  .stroke {
    cursor: grab;
    fill: none;
    outline: none;
    stroke: transparent;
    stroke-linecap: round;
    stroke-linejoin: round;
    stroke-width: 18;
    touch-action: none;
  }

  .stroke:focus-visible {
    stroke: var(--accent);
    stroke-opacity: 0.35;
  }
</style>
