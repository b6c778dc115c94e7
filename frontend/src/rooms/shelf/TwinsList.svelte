<script lang="ts">
  import type { ShelfState } from './shelf.svelte';

  let { shelf }: { shelf: ShelfState } = $props();
  const name = (id: string) => shelf.kit?.items.find((item) => item.id === id)?.name ?? id;
</script>

{#if shelf.kit?.twins.length}
  <details class="mb-2 border-l-4 border-accent bg-well p-2">
    <summary class="cursor-pointer"
      >{shelf.kit.twins.length === 1
        ? 'Two items may be one and the same'
        : `${shelf.kit.twins.length} pairs of items may be one and the same`}</summary
    >
    <ul>
      {#each shelf.kit.twins as pair (pair.into + pair.other)}
        <li class="flex flex-wrap items-center gap-2 py-1">
          <span
            ><b>{name(pair.into)}</b> <span class="label">({pair.into})</span> and
            <b>{name(pair.other)}</b>
            <span class="label">({pair.other})</span>: {pair.why}</span
          >
          <button
            class="btn h-control-s"
            disabled={shelf.busy}
            onclick={() => shelf.merge(pair.into, pair.other)}>Merge, keep {pair.into}</button
          >
        </li>
      {/each}
    </ul>
    <p class="label">
      What only the other knows is taken over; the kits it is in get the one that stays; plans keep what they
      were made with.
    </p>
  </details>
{/if}
