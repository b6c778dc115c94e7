<script lang="ts">
  import type { Snippet } from 'svelte';

  /** Says that something did not come, why, and offers another try. */
  interface Props {
    of: { failed: string; loading: boolean; load: () => unknown };
    /** What did not work, as a sentence without its end. */
    says: string;
    /** Where else one could go. */
    /** What the button says. */
    again?: string;
    leads?: Snippet;
  }

  let { of, says, again = 'Try again', leads }: Props = $props();
</script>

<div class="panel max-w-lg p-4 first-line:font-semibold" role="alert">
  {says}.
  {#if of.failed}<p class="my-2 break-words">{of.failed}</p>{:else}<br />{/if}
  <button class="btn" disabled={of.loading} onclick={() => void of.load()}>{again}</button>
  {@render leads?.()}
</div>
