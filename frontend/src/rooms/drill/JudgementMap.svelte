<script lang="ts">
  import type { Schemas } from '../../api/client';

  /** What a student knows, judgement by judgement: what holds, what fades, what comes next, what has improved. */
  let { progress, kinds = [] }: { progress: Schemas['PracticeWire']; kinds?: Schemas['DrillKindWire'][] } =
    $props();
  const percent = (share: number) => `${Math.round(100 * share)} %`;
  const named = $derived(new Map(kinds.map((each) => [each.id, each.words])));
  const groups = $derived(
    [...new Set(progress.judgements.map((each) => each.judgement.kind))].map((kind) => ({
      kind,
      rows: progress.judgements.filter((each) => each.judgement.kind === kind),
    })),
  );
  let opened = $state<string | null>(null);
  const row = $derived(progress.judgements.find((each) => each.judgement.id === opened));
  const MARKS = { new: '·', fades: '↓', holds: '✓' } as const;
</script>

<section class="panel flex flex-col gap-2 p-4" aria-label="What is known">
  <h2 class="heading">What {progress.name} knows</h2>
  <p>
    {#if progress.answers}
      {progress.practised} of {progress.of} judgements practised; {percent(progress.remembered)} of them would be
      recalled today. {progress.fits}.
    {:else}Nothing practised yet: the first session begins at level 1 and mixes every kind.{/if}
  </p>
  <div class="grid gap-x-6 gap-y-2 md:grid-cols-3">
    <div>
      <h3 class="label">Fades</h3>
      {#each progress.fades as each (each)}<p>{each}</p>{:else}<p class="text-quiet">Nothing today.</p>{/each}
    </div>
    <div>
      <h3 class="label">Comes next</h3>
      {#each progress.coming as each (each)}<p>{each}</p>{/each}
    </div>
    <div>
      <h3 class="label">Better than four weeks ago</h3>
      {#each progress.improved as each (each.words)}<p>
          {each.words}: {percent(each.before)} right before, {percent(each.since)} since
        </p>{:else}<p class="text-quiet">Nothing to compare yet.</p>{/each}
    </div>
  </div>
  <h3 class="heading mt-1">Map of judgements</h3>
  <p class="label">
    The bar is how likely each would be recalled now. ✓ holds, ↓ fades, · not practised yet. Press one for its
    figures.
  </p>
  <div class="gap-x-4 sm:columns-2 lg:columns-3">
    {#each groups as group (group.kind)}
      <div class="mb-2 break-inside-avoid">
        <h4 class="label font-semibold">{named.get(group.kind) ?? group.kind.replaceAll('_', ' ')}</h4>
        <ul>
          {#each group.rows as each (each.judgement.id)}
            <li>
              <button
                class="flex min-h-6 w-full items-center gap-2 text-left text-xs hover:underline"
                aria-expanded={opened === each.judgement.id}
                onclick={() => (opened = opened === each.judgement.id ? null : each.judgement.id)}
              >
                <span class="w-3 text-center" aria-hidden="true">{MARKS[each.standing]}</span>
                <span class="relative h-1.5 w-14 shrink-0 bg-well" aria-hidden="true"
                  ><span
                    class="absolute inset-y-0 left-0 {each.standing === 'fades' ? 'bg-quiet' : 'bg-accent'}"
                    style:width="{100 * each.recall}%"
                  ></span></span
                >
                <span class="min-w-0"
                  >{each.judgement.words}<span class="sr-only">: {each.words.toLowerCase()}</span></span
                >
              </button>
              {#if row && opened === each.judgement.id}
                <p class="label mb-1 ml-5">
                  {#if row.answers}{row.words}: recalled {percent(row.recall)} today. Of the last answers {percent(
                      row.right,
                    )} right (between {percent(row.low)} and {percent(row.high)} in nine cases of ten), {row.answers}
                    in all{row.due ? `; asked again ${new Date(row.due).toLocaleDateString()}` : ''}.
                  {:else}Not practised yet.{/if}
                </p>
              {/if}
            </li>
          {/each}
        </ul>
      </div>
    {/each}
  </div>
</section>
