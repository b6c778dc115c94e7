<script lang="ts">
  import { Popover } from 'bits-ui';
  import { words } from './vocabulary.svelte';

  /** What a figure is and how it is computed, in two sentences. */
  let { of }: { of: string } = $props();
  const figure = $derived(words.all?.figures.find((each) => each.id === of));
</script>

{#if figure}
  <Popover.Root>
    <Popover.Trigger
      class="no-print inline-grid size-4 place-items-center rounded-round border border-line text-2xs leading-none text-quiet hover:border-accent"
      aria-label="What is “{figure.words}”?">?</Popover.Trigger
    >
    <Popover.Portal>
      <Popover.Content
        class="panel z-50 w-72 max-w-[94vw] bg-well p-3 text-sm shadow-raised"
        sideOffset={4}
        collisionPadding={8}
      >
        <p class="font-semibold">{figure.words}</p>
        <p>{figure.what}</p>
        <p class="mt-1">{figure.how}</p>
      </Popover.Content>
    </Popover.Portal>
  </Popover.Root>
{/if}
