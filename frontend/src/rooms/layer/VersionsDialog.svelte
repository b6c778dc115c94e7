<script lang="ts">
  import { api, ask, type Difference, type Version } from '../../api/client';
  import { Draft } from '../../parts/draft.svelte';
  import Modal from '../../parts/Modal.svelte';
  import { notices } from '../../parts/notices.svelte';
  import DifferenceList from './DifferenceList.svelte';
  import type { WorkbenchState } from './workbench.svelte';

  let { bench, open = $bindable() }: { bench: WorkbenchState; open: boolean } = $props();
  let versions = $state.raw<Version[] | null>(null);
  let looked = $state.raw<{ number: number; found: Difference } | null>(null);
  const name = $derived(new Draft(`version ${bench.id}`));
  let all = $state(false);
  const shown = $derived(versions?.filter((each) => all || each.name || each.stands) ?? []);

  $effect(() => {
    if (open)
      void fetched(ask(api.GET('/api/sequences/{id}/versions', { params: { path: { id: bench.id } } })));
    else looked = null;
  });

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

  async function look(number: number) {
    try {
      const found = await ask(
        api.GET('/api/sequences/{id}/versions/{number}/difference', {
          params: { path: { id: bench.id, number } },
        }),
      );
      looked = { number, found };
    } catch (error) {
      notices.refuse(error);
    }
  }

  async function take(number: number) {
    if (await bench.takeVersion(number)) open = false;
  }
</script>

<Modal bind:open title="Versions of this plan">
  {#snippet about()}Every change is kept. Name the ones you want to find again.{/snippet}
  <form
    class="mb-2 flex flex-wrap items-center gap-2"
    onsubmit={(event) => {
      event.preventDefault();
      if (bench.plan && name.text.trim()) void call(bench.plan.revision, name.text);
    }}
  >
    <input
      class="h-8 grow rounded-sm border border-line bg-well px-2"
      aria-label="Name for the plan as it stands"
      placeholder="Name for the plan as it stands"
      maxlength="80"
      bind:value={name.text}
    />
    <button class="btn" disabled={!name.text.trim()}>Name it</button>
    <label class="flex items-center gap-1.5"
      ><input type="checkbox" class="accent-[var(--accent)]" bind:checked={all} />Unnamed revisions too</label
    >
  </form>
  <ol aria-label="Versions, the newest first">
    {#each shown as each (each.number)}
      <li class="border-t border-line py-1.5">
        <div class="flex flex-wrap items-center gap-2">
          <b>{each.name ?? `Revision ${each.number}`}</b>
          <span class="label grow">{each.says} · {each.made.replace('T', ' ')} UTC</span>
          {#if each.stands}<b>stands</b>{:else}
            <button class="btn h-7" onclick={() => look(each.number)}
              >What changed since<span class="sr-only">: {each.name ?? each.number}</span></button
            >
            <button class="btn h-7" disabled={bench.busy} onclick={() => take(each.number)}
              >Bring it back<span class="sr-only">: {each.name ?? each.number}</span></button
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
            {#if looked.found.says.length || looked.found.figures.length}
              <DifferenceList difference={looked.found} done />
            {:else}Nothing that shows: the two are alike.{/if}
          </div>
        {/if}
      </li>
    {/each}
  </ol>
</Modal>
