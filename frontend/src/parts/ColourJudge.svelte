<script lang="ts">
  import ByEye, { type JudgedColour } from './ByEye.svelte';
  import ByStripe from './ByStripe.svelte';

  /** A skin colour without an instrument: by eye on a grid, or by a stripe of foundation. */
  let { onjudged }: { onjudged: (judged: JudgedColour | null) => void } = $props();
  const WAYS = [
    { id: 'eye', words: 'By eye' },
    { id: 'stripe', words: 'By a stripe of foundation' },
  ] as const;
  let way = $state<'eye' | 'stripe'>('eye');
</script>

<div class="mb-2 flex gap-1" role="group" aria-label="How the colour is judged">
  {#each WAYS as each (each.id)}
    <button type="button" class="btn h-control" aria-pressed={way === each.id} onclick={() => (way = each.id)}
      >{each.words}</button
    >
  {/each}
</div>
{#if way === 'eye'}<ByEye {onjudged} />{:else}<ByStripe {onjudged} />{/if}
