<script lang="ts">
  import Pipette from '@lucide/svelte/icons/pipette';
  import X from '@lucide/svelte/icons/x';
  import type { Zone } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import ReaderDialog from '../../parts/ReaderDialog.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import type { WornState } from './worn.svelte';

  /** Colours read with a colour reader at this look, for the second look's comparison. */
  let { worn }: { worn: WornState } = $props();
  let zone = $state<Zone>('cheek_apple_l');
  let open = $state(false);
  const options = $derived(
    (words.all?.zones ?? [])
      .filter((each) => worn.workable(each.id))
      .map(({ id, words: said }) => ({ id, words: said })),
  );
  const chosen = $derived(options.some((each) => each.id === zone) ? zone : (options[0]?.id ?? zone));
  const read = $derived(Object.entries(worn.colours ?? {}) as [Zone, number[]][]);
</script>

<details>
  <summary class="cursor-pointer">Colour reading{read.length ? ` (${read.length})` : ''}</summary>
  <div class="mt-1 flex flex-wrap items-center gap-2">
    <Choice label="Where" value={chosen} {options} onchoose={(id) => (zone = id)} />
    <button class="btn" onclick={() => (open = true)}
      ><Pipette size={15} aria-hidden="true" />Colour reader…</button
    >
  </div>
  {#each read as [where, lab] (where)}
    <p class="flex items-center gap-2">
      {words.zone(where)}: L* {lab[0]}, a* {lab[1]}, b* {lab[2]}
      <button
        class="btn h-control-s px-1.5"
        aria-label="Forget the colour of {words.zone(where)}"
        onclick={() => worn.forgetColour(where)}><X size={14} aria-hidden="true" /></button
      >
    </p>
  {/each}
</details>
{#if worn.record}
  <ReaderDialog
    sitter={worn.record.sitter_id}
    wear={worn.id}
    place={chosen}
    words={words.zone(chosen)}
    bind:open
    onsave={(lab) => worn.readColour(chosen, lab)}
  />
{/if}
