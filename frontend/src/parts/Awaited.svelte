<script lang="ts">
  import type { Snippet } from 'svelte';
  import LoadFailed from './LoadFailed.svelte';
  import Waiting from './Waiting.svelte';

  /** Stands where something is not there yet: says what is waited for, or why it did not come. */
  interface Props {
    of: { failed: string; loading: boolean; load: () => unknown };
    /** What is waited for. */
    waits?: string;
    /** What did not work, as a sentence without its end. */
    says: string;
    /** Stands for the whole room, as its main part. */
    room?: boolean;
    /** What the button says. */
    again?: string;
    leads?: Snippet;
  }

  let { of, waits = 'Looking…', says, room = false, again, leads }: Props = $props();
</script>

{#snippet sign()}
  {#if of.failed}<LoadFailed {of} {says} {again} {leads} />
  {:else}<Waiting for={waits} />{/if}
{/snippet}

{#if room}<main class="grid grow place-items-center p-4">{@render sign()}</main>
{:else}<div class="p-3">{@render sign()}</div>{/if}
