<script lang="ts">
  import type { Finding, Trial } from '../../api/client';
  import { Draft } from '../../parts/draft.svelte';
  import { p } from '../../router';
  import { words } from '../../parts/vocabulary.svelte';
  import { MARK } from './marks';
  import SeverityMark from './SeverityMark.svelte';
  import TrialList from './TrialList.svelte';
  import type { WorkbenchState } from './workbench.svelte';

  let {
    bench,
    finding,
    compact = false,
  }: { bench: WorkbenchState; finding: Finding; compact?: boolean } = $props();
  const because = $derived(new Draft(`because ${bench.id} ${finding.rule} ${finding.zones.join(' ')}`));
  const SETTLE = {
    contents: 'Record what is in',
    base: 'Settle the base of',
    colour: 'Measure the colour of',
  } as const;
  let asking = $state(false);
  let preview = $state.raw<{ of: Finding; trial: Trial } | null>(null);
  const seen = $derived(preview?.of === finding ? preview.trial : null);

  async function look() {
    if (seen) preview = null;
    else if (finding.fix) {
      const trial = await bench.doc.attempt(finding.fix.edits);
      if (trial) preview = { of: finding, trial };
    }
  }
</script>

<article class="card p-2 {finding.severity === 'advice' ? '' : 'border-l-4 border-l-ink'}">
  <p class="flex flex-wrap items-center gap-1.5">
    <SeverityMark severity={finding.severity} size={14} />
    <b>{MARK[finding.severity].words}</b>
    {#if !compact}
      {#each finding.steps.filter((id) => bench.doc.number(id) > 0) as id (id)}
        <button class="text-accent underline" onclick={() => bench.stage.chooseStep(id)}
          >step {bench.doc.number(id)}</button
        >
      {/each}
    {/if}
  </p>
  <p>{finding.says}</p>
  <p class="label">{finding.why}{finding.other_view ? ` Another view: ${finding.other_view}` : ''}</p>
  {#if finding.unsettled?.length && !finding.accepted}
    <ul class="no-print mt-1 flex flex-wrap gap-x-3 text-xs" aria-label="To be found out">
      {#each finding.unsettled as { item, fact } (`${item} ${fact}`)}
        <li>
          <a class="text-accent underline" href={p('/shelf', { search: { item, settle: fact } })}
            >{SETTLE[fact]} {bench.doc.plan?.products[item]?.name ?? item}</a
          >
        </li>
      {/each}
    </ul>
  {/if}
  {#if finding.decided}<p class="label font-semibold">{finding.decided}</p>{/if}
  {#if !compact}
    <a class="label underline" href={p('/house', { search: { rule: finding.rule, plan: bench.id } })}
      >In the rule book<span class="sr-only">: {words.rule(finding.rule)?.statement}</span></a
    >
  {/if}
  {#if finding.accepted}
    <p class="mt-1 border-l-2 border-line pl-2">
      <b>Accepted, because</b>
      {finding.accepted}
      <button
        class="btn no-print ml-1 h-control-xs px-1.5 text-xs"
        disabled={bench.doc.busy}
        onclick={() => bench.doc.accept(finding, '')}>Let it speak again</button
      >
    </p>
  {:else}
    <div class="no-print mt-1.5 flex flex-wrap gap-1.5">
      {#if finding.fix}
        {@const fix = finding.fix}
        <button
          class="btn h-auto min-h-control whitespace-normal"
          disabled={bench.doc.busy}
          onclick={() => bench.doc.edit(fix.edits)}>{fix.says}</button
        >
        <button class="btn" aria-expanded={seen !== null} onclick={look}
          >{seen ? 'Enough seen' : 'See what that changes'}<span class="sr-only">: {fix.says}</span></button
        >
      {/if}
      {#if !compact && finding.severity !== 'stop' && !asking && !because.text}
        <button class="btn" onclick={() => (asking = true)}>Accept, because…</button>
      {/if}
    </div>
    {#if seen}
      <div class="no-print mt-1.5 border-l-4 border-accent pl-2" aria-live="polite">
        <TrialList trial={seen} />
      </div>
    {/if}
    {#if !compact && finding.severity !== 'stop' && (asking || because.text)}
      <form
        class="no-print mt-1 flex flex-wrap gap-1"
        onsubmit={(event) => {
          event.preventDefault();
          asking = false;
          const note = because.take();
          if (note) void bench.doc.accept(finding, note);
        }}
      >
        <input
          class="h-control min-w-0 grow rounded-control border border-line bg-panel px-2"
          aria-label="Because"
          placeholder="because …"
          maxlength="300"
          bind:value={because.text}
        />
        <button class="btn" disabled={!because.text.trim() || bench.doc.busy}>Accept it</button>
        <button
          class="btn"
          type="button"
          onclick={() => {
            because.text = '';
            asking = false;
          }}>Never mind</button
        >
      </form>
    {/if}
  {/if}
</article>
