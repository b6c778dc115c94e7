<script lang="ts">
  import type { Proportions, Stroke } from '../../api/client';
  import type { Shift } from './inputs';
  import { pointsOf } from './proportions';
  import StrokeLine from './StrokeLine.svelte';

  interface Props {
    of: Proportions;
    strokes: readonly Stroke[];
    chosen: string | null | undefined;
    held: Shift | null;
  }

  let { of, strokes, chosen, held }: Props = $props();
</script>

<g class="pointer-events-none">
  {#each strokes as stroke (stroke.id)}
    <StrokeLine
      kind={stroke.kind}
      points={pointsOf(stroke, of, held?.stroke.id === stroke.id ? held.by : undefined)}
      chosen={chosen === stroke.id}
    />
  {/each}
</g>
