<script lang="ts">
  import type { Trial } from '../../api/client';
  import { words } from '../../parts/vocabulary.svelte';
  import DifferenceList from './DifferenceList.svelte';
  import { keyOf, MARK } from './marks';
  import SeverityMark from './SeverityMark.svelte';

  /** What a change would do; ``short`` leaves the table of figures out. */
  let { trial, short = false }: { trial: Trial; short?: boolean } = $props();
  const silent = $derived(!trial.come.length && !trial.gone.length);
</script>

{#if trial.come.length || trial.gone.length}
  <ul class="flex flex-col gap-0.5">
    {#each trial.come as finding (keyOf(finding))}
      <li class="flex items-start gap-1.5">
        <span class="mt-1"><SeverityMark severity={finding.severity} /></span>
        <span><b>{MARK[finding.severity].words} comes:</b> {finding.says}</span>
      </li>
    {/each}
    {#each trial.gone as finding (keyOf(finding))}
      <li><b>Mended:</b> {finding.says}</li>
    {/each}
  </ul>
{/if}
<p class="label">
  {silent ? 'No finding comes or goes. ' : ''}{trial.look_de < 0.5
    ? 'The look stays as it is.'
    : `The look moves by up to ΔE ${trial.look_de.toFixed(1)}, ${words.zone(trial.look_zone).toLowerCase()}.`}
  {#if short}{trial.difference.figures
      .map(
        (figure) =>
          `${figure.name} ${figure.before.toFixed(figure.decimals)} to ${figure.after.toFixed(figure.decimals)} ${figure.unit}`,
      )
      .join('; ')}{/if}
</p>
{#if !short}<DifferenceList difference={trial.difference} />{/if}
