<script lang="ts">
  import type { Finding } from '../../api/client';
  import { p } from '../../router';
  import { words } from '../../parts/vocabulary.svelte';
  import { MARK } from './marks';
  import SeverityMark from './SeverityMark.svelte';
  import type { WorkbenchState } from './workbench.svelte';

  let {
    bench,
    finding,
    compact = false,
  }: { bench: WorkbenchState; finding: Finding; compact?: boolean } = $props();
  const first = $derived(finding.steps[0]);
  const number = $derived((bench.plan?.steps.findIndex((step) => step.id === first) ?? -1) + 1);
</script>

<article
  class="rounded-sm border border-line bg-well p-2 {finding.severity === 'advice'
    ? ''
    : 'border-l-4 border-l-ink'}"
>
  <p class="flex items-center gap-1.5">
    <SeverityMark severity={finding.severity} size={14} />
    <b>{MARK[finding.severity].words}</b>
    {#if !compact && first && number > 0}
      <button class="text-accent underline" onclick={() => bench.chooseStep(first)}>step {number}</button>
    {/if}
  </p>
  <p>{finding.says}</p>
  <p class="label">{finding.why}{finding.other_view ? ` Another view: ${finding.other_view}` : ''}</p>
  {#if finding.decided}<p class="label font-semibold">{finding.decided}</p>{/if}
  {#if !compact}
    <a class="label underline" href={p('/house', { search: { rule: finding.rule, plan: bench.id } })}
      >In the rule book<span class="sr-only">: {words.rule(finding.rule)?.statement}</span></a
    >
  {/if}
  {#if finding.fix}
    {@const fix = finding.fix}
    <button
      class="btn no-print mt-1.5 h-auto min-h-8 whitespace-normal"
      disabled={bench.busy}
      onclick={() => bench.edit(fix.edits)}>{fix.says}</button
    >
  {/if}
</article>
