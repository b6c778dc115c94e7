<script lang="ts">
  import { Dialog } from 'bits-ui';
  import type { UnderWay } from './under-way.svelte';

  let { way }: { way: UnderWay } = $props();
  const part = $derived(way.shown?.of ? way.shown.done / way.shown.of : null);
  const last = $derived(part === 1);
</script>

<!-- Closed only by its end or by cancelling: what is under way goes on behind nothing. -->
<Dialog.Root open={way.shown !== null}>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/40" />
    <Dialog.Content
      class="panel fixed top-1/2 left-1/2 z-50 w-96 max-w-[96vw] -translate-x-1/2 -translate-y-1/2 p-4 shadow-raised"
      escapeKeydownBehavior="ignore"
      interactOutsideBehavior="ignore"
    >
      <Dialog.Title class="text-lg font-semibold">{way.shown?.says}</Dialog.Title>
      <Dialog.Description class="mt-1">
        {#if part === null}Beginning.{:else if last}Finishing.{:else}{Math.round(part * 100)} % is done.{/if}
      </Dialog.Description>
      <progress class="mt-3 w-full" aria-label={way.shown?.says} value={part ?? undefined}></progress>
      <button class="btn mt-4" disabled={way.cancelling || last} onclick={() => way.cancel()}
        >{way.cancelling ? 'Cancelling' : 'Cancel'}</button
      >
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
