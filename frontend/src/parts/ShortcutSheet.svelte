<script lang="ts">
  import { Dialog } from 'bits-ui';
  import { shortcuts } from './shortcuts.svelte';
</script>

<Dialog.Root bind:open={shortcuts.sheetOpen}>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/50" />
    <Dialog.Content
      class="panel fixed top-1/2 left-1/2 z-50 w-96 max-w-[92vw] -translate-x-1/2 -translate-y-1/2 p-4 shadow-raised"
    >
      <Dialog.Title class="heading mb-2">Shortcuts in this room</Dialog.Title>
      <dl class="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1.5">
        <dt><kbd class="card px-1.5">?</kbd></dt>
        <dd>Open or close this list</dd>
        <dt><kbd class="card px-1.5">Ctrl+K</kbd></dt>
        <dd>Search commands</dd>
        {#each shortcuts.declared as shortcut (shortcut.keys)}
          <dt><kbd class="card px-1.5">{shortcut.keys}</kbd></dt>
          <dd>{shortcut.does}</dd>
        {/each}
      </dl>
      <Dialog.Close class="btn mt-4">Close</Dialog.Close>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
