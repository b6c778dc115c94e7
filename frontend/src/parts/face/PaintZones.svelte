<script lang="ts">
  import type { Proportions, Zone } from '../../api/client';
  import type { Outline } from './chart';
  import { ARROWS, type Painting } from './inputs';
  import { next } from './spots';

  /** Zones that are painted by a stroke of the pointer, or by arrow keys and Space. */
  interface Props extends Painting {
    zones: readonly Outline[];
    of: Proportions;
  }

  let { zones, of, pointed, told, onpoint, ontouch, onlift, onpaint }: Props = $props();
  let at = $state<Zone>('forehead_centre');
  let painting = false;
  const names = $derived(zones.map((each) => each.zone));

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
    if (painting) onlift?.();
    painting = false;
  }

  function key(event: KeyboardEvent & { currentTarget: SVGGElement }) {
    const way = ARROWS[event.key];
    if (way) {
      event.preventDefault();
      at = next(at, way, names, of);
      onpoint(at);
      event.currentTarget.querySelector<SVGPathElement>(`[data-zone="${at}"]`)?.focus();
    } else if (event.key === ' ' || event.key === 'Enter') {
      event.preventDefault();
      onpaint(at);
    }
  }
</script>

<svelte:window onpointerup={up} />

<g
  role="toolbar"
  tabindex="-1"
  aria-label="Zones to paint: arrow keys walk, Space paints"
  class="touch-none"
  onkeydown={key}
  onpointerleave={() => onpoint(null)}
>
  {#each zones as { zone, path } (zone)}
    <path
      d={path}
      data-zone={zone}
      role="button"
      tabindex={zone === at ? 0 : -1}
      aria-label={told(zone)}
      class="zone cursor-crosshair"
      class:pointed={pointed === zone}
      fill="transparent"
      onpointerdown={(event) => down(event, zone)}
      onpointerenter={() => enter(zone)}
      onfocus={() => {
        at = zone;
        onpoint(zone);
      }}
    />
  {/each}
</g>

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
