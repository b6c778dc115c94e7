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
  let because = $state<string | null>(null);
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
  {#if finding.accepted}
    <p class="mt-1 border-l-2 border-line pl-2">
      <b>Lived with, because</b>
      {finding.accepted}
      <button
        class="btn no-print ml-1 h-6 px-1.5 text-xs"
        disabled={bench.busy}
        onclick={() => bench.accept(finding, '')}>Let it speak again</button
      >
    </p>
  {:else if !compact && finding.severity !== 'stop'}
    {#if because !== null}
      <form
        class="no-print mt-1 flex gap-1"
        onsubmit={(event) => {
          event.preventDefault();
          if (because?.trim()) void bench.accept(finding, because);
          because = null;
        }}
      >
        <input
          class="h-8 min-w-0 grow rounded-sm border border-line bg-panel px-2"
          aria-label="Because"
          placeholder="because …"
          maxlength="300"
          bind:value={because}
        />
        <button class="btn" disabled={!because?.trim() || bench.busy}>Live with it</button>
      </form>
    {:else}
      <button class="btn no-print mt-1.5" onclick={() => (because = '')}>Accept, because…</button>
    {/if}
  {/if}
  {#if finding.fix && !finding.accepted}
    {@const fix = finding.fix}
    <button
      class="btn no-print mt-1.5 h-auto min-h-8 whitespace-normal"
      disabled={bench.busy}
      onclick={() => bench.edit(fix.edits)}>{fix.says}</button
    >
  {/if}
</article>
