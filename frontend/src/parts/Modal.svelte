<script lang="ts">
  import type { Snippet } from 'svelte';
  import { Dialog } from 'bits-ui';

  interface Props {
    open: boolean;
    title: string;
    /** Width in rem on large screens. */
    wide?: '34' | '44' | '56';
    about?: Snippet;
    children: Snippet;
    actions?: Snippet;
  }

  let { open = $bindable(), title, wide = '44', about, children, actions }: Props = $props();
  const WIDTHS = { '34': 'w-[34rem]', '44': 'w-[44rem]', '56': 'w-[56rem]' };
</script>

<Dialog.Root bind:open>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/40" />
    <Dialog.Content
      class="panel fixed top-1/2 left-1/2 z-50 max-h-[92vh] {WIDTHS[
        wide
      ]} max-w-[96vw] -translate-x-1/2 -translate-y-1/2 overflow-auto p-4 shadow-raised"
    >
      <Dialog.Title class="text-lg font-semibold">{title}</Dialog.Title>
      {#if about}<Dialog.Description class="mb-3">{@render about()}</Dialog.Description>{/if}
      {@render children()}
      <div class="mt-4 flex flex-wrap gap-2">
        {@render actions?.()}
        <Dialog.Close class="btn">Close</Dialog.Close>
      </div>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
