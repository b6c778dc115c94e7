<script lang="ts">
  import { api, ask, type Difference, type Version } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import { Draft } from '../../parts/draft.svelte';
  import Modal from '../../parts/Modal.svelte';
  import { notices } from '../../parts/notices.svelte';
  import { tried } from '../../parts/tried';
  import DifferenceList from './DifferenceList.svelte';
  import type { WorkbenchState } from './workbench.svelte';

  let { bench, open = $bindable() }: { bench: WorkbenchState; open: boolean } = $props();
  let versions = $state.raw<Version[] | null>(null);
  let looked = $state.raw<{ number: number; says: string; found: Difference } | null>(null);
  /** The version that the others are told against; the plan as it stands where none was chosen. */
  let against = $state<number | null>(null);
  const name = $derived(new Draft(`version ${bench.id}`));
  let all = $state(false);
  const shown = $derived(versions?.filter((each) => all || each.name || each.stands) ?? []);
  const standing = $derived(versions?.find((each) => each.stands)?.number ?? 0);
  const other = $derived(shown.some((each) => each.number === against) ? (against ?? standing) : standing);
  const options = $derived(
    shown.map((each) => ({
      id: String(each.number),
      words: each.stands ? `${calledAs(each)}, current` : calledAs(each),
    })),
  );

  $effect(() => {
    if (open)
      void fetched(ask(api.GET('/api/sequences/{id}/versions', { params: { path: { id: bench.id } } })));
    else {
      looked = null;
      against = null;
    }
  });

  function calledAs(version: Version): string {
    return version.name ?? `Revision ${version.number}`;
  }

  function called(number: number): string {
    const found = versions?.find((each) => each.number === number);
    return found ? calledAs(found) : `Revision ${number}`;
  }

  async function fetched(call: Promise<{ versions: Version[] }>) {
    try {
      versions = (await call).versions;
    } catch (error) {
      notices.refuse(error);
    }
  }

  async function call(number: number, named: string) {
    await fetched(
      ask(
        api.PUT('/api/sequences/{id}/versions/{number}', {
          params: { path: { id: bench.id, number } },
          body: { name: named },
        }),
      ),
    );
    name.text = '';
  }

  /** What changed between a version and the one chosen, told from the older to the newer. */
  async function look(number: number) {
    const [from, until] = [Math.min(number, other), Math.max(number, other)];
    const found = await tried(
      ask(
        api.GET('/api/sequences/{id}/versions/{number}/difference', {
          params: { path: { id: bench.id, number: from }, query: { until } },
        }),
      ),
    );
    if (!found) return;
    looked = { number, says: `From ${called(from)} to ${called(until)}`, found };
  }

  async function take(number: number) {
    if (await bench.doc.takeVersion(number)) open = false;
  }
</script>

<Modal bind:open title="Versions of this plan">
  {#snippet about()}Every change is kept. Name the ones you want to find again.{/snippet}
  <form
    class="mb-2 flex flex-wrap items-center gap-2"
    onsubmit={(event) => {
      event.preventDefault();
      if (bench.doc.plan && name.text.trim()) void call(bench.doc.plan.revision, name.text);
    }}
  >
    <input
      class="h-8 grow rounded-sm border border-line bg-well px-2"
      aria-label="Name for the current plan"
      placeholder="Name for the current plan"
      maxlength="80"
      bind:value={name.text}
    />
    <button class="btn" disabled={!name.text.trim()}>Name it</button>
    <label class="flex items-center gap-1.5"
      ><input type="checkbox" class="accent-[var(--accent)]" bind:checked={all} />Unnamed revisions too</label
    >
  </form>
  {#if shown.length > 1}
    <div class="mb-1 flex flex-wrap items-center gap-2">
      <span>Tell changes against</span>
      <Choice
        label="Tell changes against"
        value={String(other)}
        {options}
        onchoose={(next) => {
          against = Number(next);
          looked = null;
        }}
      />
    </div>
  {/if}
  <ol aria-label="Versions, the newest first">
    {#each shown as each (each.number)}
      <li class="border-t border-line py-1.5">
        <div class="flex flex-wrap items-center gap-2">
          <b>{calledAs(each)}</b>
          <span class="label grow">{each.says} · {each.made.replace('T', ' ')} UTC</span>
          {#if each.stands}<b>current</b>{/if}
          {#if each.number !== other}
            <button class="btn h-7" onclick={() => look(each.number)}
              >What changed {each.number < other ? 'since' : 'until'}<span class="sr-only"
                >: {calledAs(each)}</span
              ></button
            >
          {/if}
          {#if !each.stands}
            <button class="btn h-7" disabled={bench.doc.busy} onclick={() => take(each.number)}
              >Bring it back<span class="sr-only">: {calledAs(each)}</span></button
            >
          {/if}
          {#if each.name}<button
              class="btn h-7"
              aria-label="Take the name {each.name} away"
              onclick={() => call(each.number, '')}>Unname</button
            >{/if}
        </div>
        {#if looked?.number === each.number}
          <div class="mt-1 border-l-4 border-accent pl-2" aria-live="polite">
            <p class="label">{looked.says}</p>
            {#if looked.found.says.length || looked.found.figures.length}
              <DifferenceList difference={looked.found} done />
            {:else}Nothing that shows: the two are alike.{/if}
          </div>
        {/if}
      </li>
    {/each}
  </ol>
</Modal>
