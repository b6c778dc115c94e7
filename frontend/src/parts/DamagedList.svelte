<script lang="ts">
  import TriangleAlert from '@lucide/svelte/icons/triangle-alert';
  import { api, ask, type Damaged } from '../api/client';
  import Modal from './Modal.svelte';
  import { notices } from './notices.svelte';
  import { tried } from './tried';

  /** Records that cannot be read: named, exported as they are kept, erased. */
  let { records, onerased }: { records: Damaged[]; onerased: () => void } = $props();
  let erasing = $state.raw<Damaged | null>(null);
  const address = (each: Damaged) => `/api/damaged/${each.kind}/${encodeURIComponent(each.key)}`;

  async function erase() {
    const gone = erasing;
    if (!gone) return;
    erasing = null;
    const params = { path: { kind: gone.kind, key: gone.key } };
    if ((await tried(ask(api.DELETE('/api/damaged/{kind}/{key}', { params })))) === null) return;
    notices.say(`The damaged ${gone.kind} is erased.`);
    onerased();
  }
</script>

<section class="panel col-span-full self-start p-3" aria-label="Damaged records">
  <h2 class="heading flex items-center gap-2">
    <TriangleAlert size={16} aria-hidden="true" />{records.length === 1
      ? 'One record is damaged'
      : `${records.length} records are damaged`}
  </h2>
  <p class="label">They cannot be shown. Everything else works. A backup may still hold them whole.</p>
  <ul class="mt-2 flex flex-col gap-2">
    {#each records as each (each.kind + each.key)}
      <li class="flex flex-wrap items-center gap-2">
        <span class="min-w-40 break-words"><b>{each.name || 'without a name'}</b> ({each.kind})</span>
        <a class="btn" href={address(each)} download>Export as it is</a>
        <button class="btn" onclick={() => (erasing = each)}>Erase</button>
      </li>
    {/each}
  </ul>
</section>

<Modal
  bind:open={
    () => erasing !== null,
    (open) => {
      if (!open) erasing = null;
    }
  }
  title="Erase the damaged {erasing?.kind ?? ''} {erasing?.name ?? ''}?"
  wide="34"
>
  {#snippet about()}{erasing?.kind === 'sitter'
      ? 'All that is kept of this sitter goes with the record, from every backup too.'
      : 'It goes for good. Nothing else is changed.'}{/snippet}
  {#snippet actions()}
    {#if erasing}<a class="btn" href={address(erasing)} download>Export it first</a>{/if}
    <button class="btn btn-main" onclick={() => void erase()}>Erase</button>
  {/snippet}
  <span></span>
</Modal>
