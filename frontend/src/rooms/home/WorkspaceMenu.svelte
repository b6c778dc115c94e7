<script lang="ts">
  import FolderDown from '@lucide/svelte/icons/folder-down';
  import FolderUp from '@lucide/svelte/icons/folder-up';
  import { api, ask, type WorkspacePreview } from '../../api/client';
  import Modal from '../../parts/Modal.svelte';
  import { notices } from '../../parts/notices.svelte';
  import { saved, sent } from '../../parts/sending';
  import ProgressDialog from '../../parts/ProgressDialog.svelte';
  import { UnderWay } from '../../parts/under-way.svelte';

  let { ondone }: { ondone: () => void } = $props();
  let picker = $state<HTMLInputElement>();
  let coming = $state.raw<{ file: File; found: WorkspacePreview } | null>(null);
  let busy = $state(false);
  const way = new UnderWay();
  const COUNTED = [
    ['sitters', 'Sitters'],
    ['plans', 'Plans'],
    ['revisions', 'Revisions'],
    ['readings', 'Readings'],
    ['items', 'Items'],
    ['kits', 'Named kits'],
    ['tools', 'Tools'],
    ['runs', 'Runs'],
    ['wears', 'Wear records'],
    ['classes', 'Classes'],
    ['students', 'Students who practise'],
    ['sets', 'Sets of exercises'],
  ] as const;

  async function picked(event: Event & { currentTarget: HTMLInputElement }) {
    const file = event.currentTarget.files?.[0];
    event.currentTarget.value = '';
    if (!file) return;
    await doing('Looking through the zip', async () => {
      const body = await sent(file, 'application/zip');
      coming = { file, found: await ask(api.POST('/api/workspace/preview', body)) };
    });
  }

  async function exported() {
    await doing('Exporting the workspace', async () => {
      const zip = await ask(api.GET('/api/workspace', { parseAs: 'blob' }));
      saved(zip as unknown as Blob, 'nabrel-workspace.zip');
    });
  }

  async function take(all: boolean) {
    const file = coming?.file;
    if (!file) return;
    await doing('Importing the workspace', async () => {
      const body = await sent(file, 'application/zip');
      await ask(all ? api.PUT('/api/workspace', body) : api.POST('/api/workspace/people', body));
      notices.say(all ? 'The workspace is imported and replaces what was here.' : 'The sitters are added.');
      coming = null;
      ondone();
    });
  }

  async function doing(says: string, work: () => Promise<void>) {
    busy = true;
    try {
      await way.during(says, work);
    } catch (error) {
      notices.refuse(error);
    } finally {
      busy = false;
    }
  }
</script>

<button class="btn" disabled={busy} title="Everything in this workspace, as one zip" onclick={exported}
  ><FolderDown size={15} aria-hidden="true" />Export workspace</button
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
    <button class="btn" disabled={busy} onclick={exported}>Export the present workspace first</button>
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

<ProgressDialog {way} />
