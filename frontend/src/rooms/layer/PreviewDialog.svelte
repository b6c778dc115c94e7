<script lang="ts">
  import { Dialog } from 'bits-ui';
  import { words } from '../../parts/vocabulary.svelte';
  import DifferenceList from './DifferenceList.svelte';
  import type { WorkbenchState } from './workbench.svelte';

  let { bench }: { bench: WorkbenchState } = $props();
  const preview = $derived(bench.proposal.now);
  const school = $derived(words.all?.schools.find((each) => each.id === preview?.wish.school));
</script>

<Dialog.Root
  open={preview !== null}
  onOpenChange={(open) => {
    if (!open) bench.proposal.now = null;
  }}
>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/40" />
    <Dialog.Content
      class="panel fixed top-1/2 left-1/2 z-50 max-h-[90vh] w-[34rem] max-w-[94vw] -translate-x-1/2 -translate-y-1/2 overflow-auto p-4 shadow-raised"
    >
      {#if preview}
        <Dialog.Title class="text-lg font-semibold">
          {#if school}Plan it {school.words.toLowerCase()}?{:else if preview.wish.setting}Setting: {words.setting(
              preview.wish.setting,
            )}?{:else}Plan it with these wishes?{/if}
        </Dialog.Title>
        <Dialog.Description class="mb-3">
          {#if school}{school.why} <span class="label block">It demands: {school.demands}</span>{/if}
        </Dialog.Description>
        <DifferenceList difference={preview.found.difference} />
        <p class="label mt-3">
          The face is planned anew; edits made by hand stay in the history, one undo away.
        </p>
        <div class="mt-3 flex gap-2">
          <button class="btn btn-main" disabled={bench.doc.busy} onclick={() => bench.proposal.save()}
            >Take it</button
          >
          <Dialog.Close class="btn">Leave it as it is</Dialog.Close>
        </div>
      {/if}
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
