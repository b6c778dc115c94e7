<script lang="ts">
  import Choice from '../../parts/Choice.svelte';
  import { Draft } from '../../parts/draft.svelte';
  import Modal from '../../parts/Modal.svelte';
  import DifferenceList from './DifferenceList.svelte';
  import { calledAs, VersionsState } from './versions.svelte';
  import type { WorkbenchState } from './workbench.svelte';

  let { bench, open = $bindable() }: { bench: WorkbenchState; open: boolean } = $props();
  const stored = $derived(new VersionsState(bench.id));
  const name = $derived(new Draft(`version ${bench.id}`));
  const options = $derived(
    stored.shown.map((each) => ({
      id: String(each.number),
      words: each.current ? `${calledAs(each)}, current` : calledAs(each),
    })),
  );

  $effect(() => {
    if (open) void stored.load();
    else stored.leave();
  });

  async function call(number: number, named: string) {
    await stored.call(number, named);
    name.text = '';
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
      class="field grow"
      aria-label="Name for the current plan"
      placeholder="Name for the current plan"
      maxlength="80"
      bind:value={name.text}
    />
    <button class="btn" disabled={!name.text.trim()}>Name it</button>
    <label class="flex items-center gap-1.5"
      ><input type="checkbox" class="accent-[var(--accent)]" bind:checked={stored.all} />Unnamed revisions too</label
    >
  </form>
  {#if stored.shown.length > 1}
    <div class="mb-1 flex flex-wrap items-center gap-2">
      <span>Tell changes against</span>
      <Choice
        label="Tell changes against"
        value={String(stored.other)}
        {options}
        onchoose={(next) => stored.tellAgainst(Number(next))}
      />
    </div>
  {/if}
  <ol aria-label="Versions, the newest first">
    {#each stored.shown as each (each.number)}
      <li class="border-t border-line py-1.5">
        <div class="flex flex-wrap items-center gap-2">
          <b>{calledAs(each)}</b>
          <span class="label grow">{each.says} · {each.made.replace('T', ' ')} UTC</span>
          {#if each.current}<b>current</b>{/if}
          {#if each.number !== stored.other}
            <button class="btn h-control-s" onclick={() => stored.look(each.number)}
              >What changed {each.number < stored.other ? 'since' : 'until'}<span class="sr-only"
                >: {calledAs(each)}</span
              ></button
            >
          {/if}
          {#if !each.current}
            <button class="btn h-control-s" disabled={bench.doc.busy} onclick={() => take(each.number)}
              >Bring it back<span class="sr-only">: {calledAs(each)}</span></button
            >
          {/if}
          {#if each.name}<button
              class="btn h-control-s"
              aria-label="Take the name {each.name} away"
              onclick={() => call(each.number, '')}>Unname</button
            >{/if}
        </div>
        {#if stored.looked?.number === each.number}
          <div class="mt-1 border-l-4 border-accent pl-2" aria-live="polite">
            <p class="label">{stored.looked.says}</p>
            {#if stored.looked.found.says.length || stored.looked.found.figures.length}
              <DifferenceList difference={stored.looked.found} done />
            {:else}Nothing that shows: the two are alike.{/if}
          </div>
        {/if}
      </li>
    {/each}
  </ol>
</Modal>
