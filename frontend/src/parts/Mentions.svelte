<script lang="ts">
  import type { Mention } from '../api/client';

  /** The titles that name who is to be erased, fetched where there are any. */
  let { mentions, leave = $bindable() }: { mentions: Mention[]; leave: string[] } = $props();
</script>

{#if mentions.length}{#await import('./MentionList.svelte') then { default: MentionList }}<MentionList
      {mentions}
      bind:leave
    />{/await}{/if}
