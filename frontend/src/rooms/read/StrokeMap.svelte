<script lang="ts">
  import type { Stroke, Zone } from '../../api/client';
  import StrokeLine from '../../parts/StrokeLine.svelte';
  import FaceMap from '../../parts/FaceMap.svelte';
  import { pointsOf } from '../../parts/proportions';
  import { words } from '../../parts/vocabulary.svelte';
  import type { ReadState } from './read.svelte';

  interface Props {
    read: ReadState;
    chosen: string | null;
    onchoose: (stroke: string) => void;
  }

  let { read, chosen, onchoose }: Props = $props();
  const face = $derived(read.face!);
  const colours = $derived(
    Object.fromEntries(face.zones.map((zone) => [zone.zone, zone.hex])) as Record<Zone, string>,
  );
  let held = $state<{ id: string; from: [number, number]; by: [number, number] } | null>(null);
  let layer = $state<SVGGElement>();
  const MOST = 60;

  function points(stroke: Stroke): string {
    const [right, down] = held?.id === stroke.id ? held.by : [0, 0];
    return pointsOf(stroke, face.proportions, [right / face.mm_a_unit, down / face.mm_a_unit]);
  }

  function spot(event: PointerEvent): [number, number] {
    const turn = layer?.getScreenCTM()?.inverse();
    const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(turn);
    return [at.x * face.mm_a_unit, at.y * face.mm_a_unit];
  }

  function down(event: PointerEvent & { currentTarget: SVGGElement }, stroke: Stroke) {
    if (event.button) return;
    event.currentTarget.setPointerCapture(event.pointerId);
    onchoose(stroke.id);
    held = { id: stroke.id, from: spot(event), by: [0, 0] };
  }

  function drag(event: PointerEvent) {
    if (!held) return;
    const [x, y] = spot(event);
    held = { ...held, by: [x - held.from[0], y - held.from[1]] };
  }

  function drop(stroke: Stroke) {
    const by = held?.by;
    held = null;
    if (by && Math.hypot(...by) >= 1) shift(stroke, by);
  }

  function shift(stroke: Stroke, by: [number, number]) {
    const [right = 0, below = 0] = stroke.moved_mm;
    const stored = (mm: number) => Math.max(-MOST, Math.min(MOST, Math.round(mm)));
    read.move(stroke.id, [stored(right + by[0]), stored(below + by[1])]);
  }

  const WAYS: Record<string, [number, number]> = {
    ArrowLeft: [-2, 0],
    ArrowRight: [2, 0],
    ArrowUp: [0, -2],
    ArrowDown: [0, 2],
  };

  function key(event: KeyboardEvent, stroke: Stroke) {
    const way = WAYS[event.key];
    if (way) {
      event.preventDefault();
      shift(stroke, way);
    } else if (event.key === 'Home') {
      event.preventDefault();
      read.move(stroke.id, [0, 0]);
    }
  }

  function told(stroke: Stroke): string {
    const where = stroke.zones.map((zone) => words.zone(zone)).join(', ');
    const [right = 0, below = 0] = stroke.moved_mm;
    return `${words.step(stroke.kind)} on ${where}${right || below ? ', moved by hand' : ''}. ${stroke.why}`;
  }
</script>

<FaceMap {colours} proportions={face.proportions} label="{face.nickname}, with placements">
  {#snippet over()}
    <g bind:this={layer} role="group" aria-label="Placements: drag, or focus and use the arrow keys">
      {#each face.strokes as stroke (stroke.id)}
        <g
          role="button"
          tabindex="0"
          aria-label={told(stroke)}
          aria-pressed={chosen === stroke.id}
          class="stroke"
          onpointerdown={(event) => down(event, stroke)}
          onpointermove={drag}
          onpointerup={() => drop(stroke)}
          onfocus={() => onchoose(stroke.id)}
          onkeydown={(event) => key(event, stroke)}
        >
          <polyline class="hold" points={points(stroke)} />
          <StrokeLine kind={stroke.kind} points={points(stroke)} chosen={chosen === stroke.id} />
        </g>
      {/each}
    </g>
  {/snippet}
</FaceMap>

<style>
  .stroke {
    cursor: grab;
    fill: none;
    outline: none;
    stroke-linecap: round;
    stroke-linejoin: round;
    touch-action: none;
  }

  .hold {
    stroke: transparent;
    stroke-width: 18;
  }

  .stroke:focus-visible .hold {
    stroke: var(--accent);
    stroke-opacity: 0.35;
  }
</style>
