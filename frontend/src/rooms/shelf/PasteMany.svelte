<script lang="ts">
  import { api, ask, type Pasted } from '../../api/client';
  import { Draft } from '../../parts/draft.svelte';
  import Modal from '../../parts/Modal.svelte';
  import { tried } from '../../parts/tried';
  import Swatch from '../../parts/Swatch.svelte';
  import type { ShelfState } from './shelf.svelte';

  /** A list pasted at once, an item a line: what each line was understood as, before anything is saved. */
  let { shelf, open = $bindable() }: { shelf: ShelfState; open: boolean } = $props();
  const typed = new Draft('pasted shelf');
  let read = $state.raw<Pasted | null>(null);
  const items = $derived((read?.lines ?? []).flatMap((line) => line.item ?? []));

  async function understand() {
    const found = await tried(ask(api.POST('/api/kit/pasted', { body: { text: typed.text } })));
    if (!found) return;
    read = found;
  }

  async function add() {
    if (!(await shelf.addItems(items))) return;
    typed.text = '';
    read = null;
    open = false;
  }
</script>

<Modal bind:open title="Paste a list" wide="56">
  {#snippet about()}An item a line, such as “Satin fluid foundation, light warm”, “peach corrector” or “loose
    powder”.{/snippet}
  {#snippet actions()}
    <button class="btn" disabled={!typed.text.trim()} onclick={understand}>Read the list</button>
    <button class="btn btn-main" disabled={shelf.busy || !items.length} onclick={add}
      >Add {items.length || ''} {items.length === 1 ? 'item' : 'items'}</button
    >
  {/snippet}
  <textarea
    class="field min-h-32 w-full p-2"
    aria-label="List of items"
    maxlength="40000"
    value={typed.text}
    oninput={(event) => ((typed.text = event.currentTarget.value), (read = null))}></textarea>
  {#if read}
    <ul class="mt-2" aria-label="As it was understood">
      {#each read.lines as line (line.line)}
        <li class="flex items-center gap-2 border-t border-line py-1">
          {#if line.swatch}<Swatch hex={line.swatch} size={20} />{:else}<span class="inline-block w-5"
            ></span>{/if}
          <span class="min-w-0 grow truncate">{line.text}</span>
          <span class="shrink-0"
            >{#if line.item}≈ {line.says}{:else}<b>▲ {line.says}</b>{/if}</span
          >
        </li>
      {:else}
        <li>Nothing to read in that.</li>
      {/each}
    </ul>
    <p class="label mt-1">≈ marks what is guessed: colours and cover can be measured later.</p>
  {/if}
</Modal>
