<script lang="ts">
  import Choice from '../../parts/Choice.svelte';
  import type { ShelfState } from './shelf.svelte';

  let { shelf }: { shelf: ShelfState } = $props();
  let naming = $state(false);
  let name = $state('');

  async function begin(event: SubmitEvent) {
    event.preventDefault();
    if (!name.trim()) return;
    await shelf.kits.begin(name.trim());
    naming = false;
    name = '';
  }
</script>

<div class="mb-2 flex flex-wrap items-center gap-2" role="group" aria-label="Named kits">
  <Choice
    label="Kit"
    value={shelf.kits.id}
    options={[
      { id: '', words: 'Whole shelf' },
      ...(shelf.kit?.kits ?? []).map((kit) => ({
        id: kit.id,
        words: kit.name,
        note: String(kit.items?.length ?? 0),
      })),
    ]}
    onchoose={(next) => (shelf.kits.id = next)}
  />
  {#if shelf.kits.named}
    <label class="flex items-center gap-1.5"
      ><input type="checkbox" class="accent-[var(--accent)]" bind:checked={shelf.kits.only} />Only what is in
      it</label
    >
    <span class="label"
      >{shelf.kits.named.items?.length ?? 0} {shelf.kits.named.items?.length === 1 ? 'item' : 'items'}</span
    >
    <button class="btn h-control-s" disabled={shelf.busy} onclick={() => shelf.kits.takeApart()}
      >Delete kit</button
    >
  {/if}
  {#if naming}
    <form class="flex gap-2" onsubmit={begin}>
      <input
        class="field"
        aria-label="Name of the kit"
        placeholder="Students, travelling case…"
        maxlength="120"
        bind:value={name}
      />
      <button class="btn" disabled={shelf.busy || !name.trim()}>Begin it</button>
      <button type="button" class="btn" onclick={() => (naming = false)}>Leave it</button>
    </form>
  {:else}
    <button class="btn h-control-s" onclick={() => (naming = true)}>New kit…</button>
  {/if}
</div>
