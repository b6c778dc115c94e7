<script lang="ts">
  /** Says on how many looks a figure rests; nothing where nothing learnt is in it. */
  let { looks = 0 }: { looks?: number } = $props();
</script>

{#if looks}<span class="label font-normal whitespace-nowrap"
    >learnt from {looks} {looks === 1 ? 'look' : 'looks'}</span
  >{/if}
