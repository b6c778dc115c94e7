<script lang="ts">
  import { namesOf, sameMix } from '../../plan/steps';
  import type { Finding } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import FindingCard from './FindingCard.svelte';
  import { keyOf, MARK } from './marks';
  import type { WorkbenchState } from './workbench.svelte';

  let { bench }: { bench: WorkbenchState } = $props();
  let grouped = $state<'cause' | 'severity' | 'kind'>('cause');

  const all = $derived(bench.doc.plan?.findings ?? []);
  const speaking = $derived(all.filter((finding) => !finding.accepted));
  const lived = $derived(all.filter((finding) => finding.accepted));
  const grave = $derived(speaking.filter((finding) => finding.severity !== 'advice').length);
  const RANK = { stop: 0, problem: 1, advice: 2 } as const;

  interface Group {
    key: string;
    words: string;
    step: string | null;
    findings: Finding[];
  }

  /** All was well until the last of the steps named came, or the first of those laid over it that it clashes with. */
  function cause(finding: Finding): Omit<Group, 'findings'> {
    const own = Math.max(0, ...finding.steps.map((id) => bench.doc.number(id)));
    const over = (finding.against ?? []).map((id) => bench.doc.number(id)).filter((number) => number > own);
    const number = over.length ? Math.min(...over) : own;
    const named = bench.doc.plan?.steps[number - 1];
    // What nobody recorded of several packs is no step's doing.
    const unknown = finding.unsettled?.some((each) => each.fact === 'contents');
    if (!named || unknown) return { key: '', words: 'The plan as a whole', step: null };
    // A product laid in several steps is one cause, told by the first of them.
    const step =
      bench.doc.plan?.steps.find((each) => each.kind === named.kind && sameMix(each, named)) ?? named;
    const taken = bench.doc.plan ? namesOf(step, bench.doc.plan.products) : '';
    const product = taken ? `, ${taken}` : '';
    const key = taken ? step.id : named.id;
    return { key, words: `${bench.doc.number(key)}. ${words.step(step.kind)}${product}`, step: key };
  }

  function groupOf(finding: Finding): Omit<Group, 'findings'> {
    if (grouped === 'severity')
      return { key: finding.severity, words: MARK[finding.severity].plural, step: null };
    if (grouped === 'kind') {
      const family = finding.family;
      return { key: family, words: family[0]?.toUpperCase() + family.slice(1), step: null };
    }
    return cause(finding);
  }

  const groups = $derived.by(() => {
    const found: Group[] = [];
    for (const finding of speaking) {
      const group = groupOf(finding);
      const known = found.find((each) => each.key === group.key);
      if (known) known.findings.push(finding);
      else found.push({ ...group, findings: [finding] });
    }
    // The core tells findings gravest first, so a group is as grave as its first.
    return found.sort(
      (one, other) =>
        RANK[one.findings[0]?.severity ?? 'advice'] - RANK[other.findings[0]?.severity ?? 'advice'],
    );
  });
</script>

<section class="panel p-2.5" aria-label="Findings">
  <div class="mb-1 flex flex-wrap items-center justify-between gap-2">
    <h2 class="heading">
      {speaking.length
        ? `${speaking.length} ${speaking.length === 1 ? 'finding' : 'findings'}, ${grave} to mend`
        : bench.doc.plan?.steps.length
          ? `Nothing to fix${lived.length ? `; ${lived.length} ${lived.length === 1 ? 'thing' : 'things'} accepted on purpose` : ''}`
          : 'Nothing is laid yet, so no rule speaks'}
    </h2>
    {#if speaking.length > 1}
      <div class="no-print flex items-center gap-1.5 text-xs">
        <span>Grouped by</span>
        <Choice
          label="Grouped by"
          value={grouped}
          options={[
            { id: 'cause', words: 'The step that causes them' },
            { id: 'severity', words: 'How grave they are' },
            { id: 'kind', words: 'What they are about' },
          ]}
          onchoose={(next) => (grouped = next)}
        />
      </div>
    {/if}
  </div>
  <div class="flex flex-col gap-2">
    {#each groups as group (group.key)}
      <section aria-label={group.words}>
        <h3 class="label mb-1 font-semibold">
          {#if group.step}
            {@const step = group.step}
            <button class="text-left text-accent underline" onclick={() => bench.stage.chooseStep(step)}
              >{group.words}</button
            >
          {:else}{group.words}{/if}
          {#if group.findings.length > 1}<span class="font-normal">({group.findings.length})</span>{/if}
        </h3>
        <div class="grid gap-2 {group.findings.length > 1 ? 'xl:grid-cols-2' : ''}">
          {#each group.findings as finding (keyOf(finding))}<FindingCard {bench} {finding} />{/each}
        </div>
      </section>
    {/each}
  </div>
  {#if lived.length}
    <details class="mt-2">
      <summary class="cursor-pointer">Accepted ({lived.length})</summary>
      <div class="mt-1 grid gap-2 xl:grid-cols-2">
        {#each lived as finding (keyOf(finding))}<FindingCard {bench} {finding} />{/each}
      </div>
    </details>
  {/if}
</section>
