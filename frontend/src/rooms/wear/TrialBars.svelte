<script lang="ts">
  import type { Schemas } from '../../api/client';

  /** For each measure, the second way's hours over the first's, as a bar with the interval that holds it in nine cases of ten. */
  let { results, ways }: { results: readonly Schemas['TrialResultWire'][]; ways: readonly string[] } =
    $props();
  const SPAN = Math.log(3);
  const x = (factor: number) => 50 + (50 * Math.max(-SPAN, Math.min(SPAN, Math.log(factor)))) / SPAN;
</script>

<div class="label flex justify-between">
  <span>{ways[0]} lasts longer</span><span>{ways[1]} lasts longer</span>
</div>
{#each results as each (each.about)}
  <svg viewBox="0 0 100 14" class="h-4 w-full" preserveAspectRatio="none" aria-hidden="true">
    <path d="M50 0V14" stroke="var(--quiet)" vector-effect="non-scaling-stroke" />
    <rect
      x={x(each.low)}
      y="5"
      width={Math.max(0.5, x(each.high) - x(each.low))}
      height="4"
      fill={each.sure ? 'var(--accent)' : 'var(--line)'}
    />
    <rect x={x(each.factor) - 0.5} y="2" width="1" height="10" fill="var(--ink)" />
  </svg>
  <p class={each.sure ? 'font-semibold' : ''}>{each.says}</p>
{/each}
