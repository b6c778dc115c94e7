<script lang="ts">
  import type { Stroke } from '../../api/client';

  /** One stroke of a placement as it is drawn on a face: a line that tells its kind without colour. */
  interface Props {
    kind: Stroke['kind'];
    points: string;
    chosen?: boolean;
  }

  let { kind, points, chosen = false }: Props = $props();
</script>

<g class="line-of {kind}" class:chosen>
  <polyline class="under" {points} />
  <polyline class="line" {points} />
</g>

<style>
  .line-of {
    fill: none;
    stroke-linecap: round;
    stroke-linejoin: round;
  }

  .under {
    stroke: #fff;
    stroke-opacity: 0.85;
  }

  .line {
    stroke: #111;
  }

  .shade .under {
    stroke-width: 8;
  }

  .shade .line {
    stroke-width: 5;
  }

  .light .under {
    stroke: #111;
    stroke-width: 7;
  }

  .light .line {
    stroke: #fff;
    stroke-width: 5;
  }

  .glow .under {
    stroke-width: 6;
  }

  .glow .line {
    stroke-width: 3;
    stroke-dasharray: 0.1 6;
  }

  .colour .under {
    stroke-width: 6;
  }

  .colour .line {
    stroke-width: 3;
    stroke-dasharray: 7 5;
  }

  .chosen .line {
    stroke: var(--accent);
  }
</style>
