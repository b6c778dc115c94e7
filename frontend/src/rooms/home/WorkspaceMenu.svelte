<script lang="ts">
  import FolderDown from '@lucide/svelte/icons/folder-down';
  import FolderUp from '@lucide/svelte/icons/folder-up';
  import { api, ask, type WorkspacePreview } from '../../api/client';
  import Modal from '../../parts/Modal.svelte';
  import { notices } from '../../parts/notices.svelte';
  import { sent } from '../../parts/sending';

  let { ondone }: { ondone: () => void } = $props();
  let picker = $state<HTMLInputElement>();
  let coming = $state.raw<{ file: File; found: WorkspacePreview } | null>(null);
  let busy = $state(false);
  const COUNTED = [
    ['sitters', 'Sitters'],
    ['plans', 'Plans'],
    ['revisions', 'Revisions'],
    ['readings', 'Readings'],
    ['items', 'Items'],
    ['kits', 'Named kits'],
    ['tools', 'Tools'],
    ['runs', 'Runs'],
  ] as const;

  async function picked(event: Event & { currentTarget: HTMLInputElement }) {
    const file = event.currentTarget.files?.[0];
    event.currentTarget.value = '';
    if (!file) return;
    busy = true;
    try {
      const found = await ask(api.POST('/api/workspace/preview', await sent(file, 'application/zip')));
      coming = { file, found };
    } catch (error) {
      notices.refuse(error);
    } finally {
      busy = false;
    }
  }

  async function take(all: boolean) {
    if (!coming) return;
    busy = true;
    try {
      const body = await sent(coming.file, 'application/zip');
      await ask(all ? api.PUT('/api/workspace', body) : api.POST('/api/workspace/people', body));
      notices.say(all ? 'The workspace is in, in place of what was here.' : 'The sitters are in.');
      coming = null;
      ondone();
    } catch (error) {
      notices.refuse(error);
    } finally {
      busy = false;
    }
  }
</script>

<a class="btn" href="/api/workspace" download title="Everything that is kept, as one zip"
  ><FolderDown size={15} aria-hidden="true" />Export workspace</a
>
<button class="btn" disabled={busy} onclick={() => picker?.click()}
  ><FolderUp size={15} aria-hidden="true" />Import workspace</button
>
<input
  bind:this={picker}
  type="file"
  accept=".zip,application/zip"
  class="hidden"
  aria-label="Workspace zip"
  onchange={picked}
/>

<Modal
  bind:open={
    () => coming !== null,
    (shown) => {
      if (!shown) coming = null;
    }
  }
  title="Import this workspace?"
  wide="34"
>
  {#snippet about()}
    {coming?.file.name} holds {coming?.found.comes.nicknames.slice(0, 12).join(', ') || 'nobody'}. Replacing
    deletes everything that is here now; adding keeps it.
  {/snippet}
  {#snippet actions()}
    <a class="btn" href="/api/workspace" download>Export the present workspace first</a>
    <button class="btn" disabled={busy} onclick={() => take(false)}>Add to the sitters already here</button>
    <button class="btn btn-main" disabled={busy} onclick={() => take(true)}>Replace everything</button>
  {/snippet}
  <table class="w-full">
    <thead>
      <tr class="label text-left"
        ><th class="font-normal"></th><th class="text-right font-normal">in the file</th><th
          class="text-right font-normal">here now</th
        ></tr
      >
    </thead>
    <tbody>
      {#each COUNTED as [name, said] (name)}
        <tr class="border-t border-line"
          ><td class="py-0.5">{said}</td><td class="text-right">{coming?.found.comes[name]}</td><td
            class="text-right">{coming?.found.goes[name]}</td
          ></tr
        >
      {/each}
    </tbody>
  </table>
</Modal>
