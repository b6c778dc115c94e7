<script lang="ts">
  import type { Proportions, Zone } from '../api/client';
  import { SHAPES } from './face';
  import FaceMap from './FaceMap.svelte';
  import { drawn, placed } from './proportions';
  import { words } from './vocabulary.svelte';

  /** A face whose zones are painted with grades from 1 to 3: by a stroke of the pointer, or by arrow keys and Space. */
  interface Props {
    colours: Record<Zone, string>;
    proportions: Proportions;
    label: string;
    /** The grade shown on a zone; 0 shows nothing. */
    grade: (zone: Zone) => number;
    /** What is said of a zone. */
    told: (zone: Zone) => string;
    pointed: Zone | null;
    onpoint: (zone: Zone | null) => void;
    /** A stroke went over a zone. */
    ontouch: (zone: Zone) => void;
    /** The stroke has ended. */
    onlift: () => void;
    /** A zone is painted by a key. */
    onpaint: (zone: Zone) => void;
  }

  let { colours, proportions, label, grade, told, pointed, onpoint, ontouch, onlift, onpaint }: Props =
    $props();
  const uid = $props.id();
  let at = $state<Zone>('forehead_centre');
  let painting = false;
  const ordered = $derived([
    ...SHAPES.filter((shape) => shape.behind),
    ...SHAPES.filter((shape) => !shape.behind),
  ]);

  function spot(zone: Zone): [number, number] {
    const [x, y] = words.all?.anchors[zone] ?? [160, 200];
    return placed(x ?? 160, y ?? 200, proportions);
  }

  function down(event: PointerEvent & { currentTarget: SVGPathElement }, zone: Zone) {
    if (event.button) return;
    // Touch holds the pointer to where it went down; let it go, so that a stroke can cross zones.
    if (event.currentTarget.hasPointerCapture(event.pointerId))
      event.currentTarget.releasePointerCapture(event.pointerId);
    painting = true;
    at = zone;
    ontouch(zone);
  }

  function enter(zone: Zone) {
    onpoint(zone);
    if (painting) ontouch(zone);
  }

  function up() {
    if (painting) onlift();
    painting = false;
  }

  const WAYS: Record<string, [number, number]> = {
    ArrowLeft: [-1, 0],
    ArrowRight: [1, 0],
    ArrowUp: [0, -1],
    ArrowDown: [0, 1],
  };

  /** The nearest zone that way: nearness along the way counts, straying from it counts double. */
  function next(zone: Zone, way: [number, number]): Zone {
    const [fromX, fromY] = spot(zone);
    let best: [number, Zone] = [Infinity, zone];
    for (const { zone: other } of SHAPES) {
      const [x, y] = spot(other);
      const along = (x - fromX) * way[0] + (y - fromY) * way[1];
      const aside = Math.abs((x - fromX) * way[1]) + Math.abs((y - fromY) * way[0]);
      const far = along + 2 * aside;
      if (other !== zone && along > 3 && far < best[0]) best = [far, other];
    }
    return best[1];
  }

  function key(event: KeyboardEvent & { currentTarget: SVGGElement }) {
    const way = WAYS[event.key];
    if (way) {
      event.preventDefault();
      at = next(at, way);
      onpoint(at);
      event.currentTarget.querySelector<SVGPathElement>(`[data-zone="${at}"]`)?.focus();
    } else if (event.key === ' ' || event.key === 'Enter') {
      event.preventDefault();
      onpaint(at);
    }
  }
</script>

<svelte:window onpointerup={up} />

<FaceMap {colours} {proportions} {label}>
  {#snippet over()}
    <defs>
      {#each [1, 2, 3] as severity (severity)}
        {@const gap = [0, 14, 8, 8][severity] ?? 8}
        <pattern
          id="{uid}-{severity}"
          width={gap}
          height={gap}
          patternUnits="userSpaceOnUse"
          patternTransform="rotate({severity === 3 ? 0 : 45})"
        >
          <path d="M0 0H{gap}" stroke="#fff" stroke-width="2" stroke-opacity="0.6" />
          <path d="M0 0H{gap}" stroke="#111" stroke-width="0.9" stroke-opacity="0.8" />
          {#if severity === 3}
            <path d="M0 0V{gap}" stroke="#fff" stroke-width="2" stroke-opacity="0.6" />
            <path d="M0 0V{gap}" stroke="#111" stroke-width="0.9" stroke-opacity="0.8" />
          {/if}
        </pattern>
      {/each}
    </defs>
    <g
      role="toolbar"
      tabindex="-1"
      aria-label="Zones to paint: arrow keys walk, Space paints"
      class="touch-none"
      onkeydown={key}
      onpointerleave={() => onpoint(null)}
    >
      {#each ordered as shape (shape.zone)}
        {@const severity = grade(shape.zone)}
        <path
          d={drawn(shape.path, proportions, shape.mirrored)}
          data-zone={shape.zone}
          role="button"
          tabindex={shape.zone === at ? 0 : -1}
          aria-label={told(shape.zone)}
          class="zone cursor-crosshair"
          class:pointed={pointed === shape.zone}
          fill={severity ? `url(#${uid}-${severity})` : 'transparent'}
          onpointerdown={(event) => down(event, shape.zone)}
          onpointerenter={() => enter(shape.zone)}
          onfocus={() => {
            at = shape.zone;
            onpoint(shape.zone);
          }}
        />
      {/each}
    </g>
    <g class="pointer-events-none" font-size="9" font-weight="700" text-anchor="middle">
      {#each ordered as shape (shape.zone)}
        {@const severity = grade(shape.zone)}
        {#if severity}
          {@const [x, y] = spot(shape.zone)}
          <circle cx={x} cy={y} r="5.6" fill="#fff" stroke="#111" stroke-width="0.8" />
          <text {x} y={y + 3.2} fill="#111">{severity}</text>
        {/if}
      {/each}
    </g>
  {/snippet}
</FaceMap>

<style>
  .zone {
    stroke: #111;
    stroke-opacity: 0.35;
    stroke-width: 0.7;
    outline: none;
  }

  .zone.pointed,
  .zone:focus-visible {
    stroke: var(--accent);
    stroke-opacity: 1;
    stroke-width: 2.6;
  }
</style>
