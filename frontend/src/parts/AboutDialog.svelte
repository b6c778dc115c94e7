<script lang="ts">
  import { api, ask, type About } from '../api/client';
  import Modal from './Modal.svelte';
  import { notices } from './notices.svelte';

  /** Which Nabrel this is, where its data lie, and the licences of all that ships with it. */
  let { open = $bindable() }: { open: boolean } = $props();
  let found = $state.raw<About | null>(null);

  $effect(() => {
    if (!open || found) return;
    ask(api.GET('/api/about'))
      .then((answer) => (found = answer))
      .catch((error: unknown) => notices.refuse(error));
  });
</script>

<Modal bind:open title="About Nabrel">
  {#snippet about()}A workbench for makeup educators. A planning aid, not a measurement of a person and not a
    diagnosis.{/snippet}
  {#if found}
    <dl class="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1">
      <dt class="label">Version</dt>
      <dd>{found.version}</dd>
      <dt class="label">Data</dt>
      <dd class="break-all">{found.data || 'kept by the server you are signed in to'}</dd>
      <dt class="label">Rules and numbers</dt>
      <dd>{found.rules} rules, {found.parameters} house numbers</dd>
    </dl>
    <h3 class="heading mt-3">What ships with it</h3>
    <p class="my-2"><a class="btn" href="/api/licences" download>Export all licences</a></p>
    <ul class="columns-1 gap-6 sm:columns-2">
      {#each found.parts as part (part.name)}
        <li class="break-inside-avoid">
          {part.name}
          {part.version} <span class="label">{part.licence}</span>
        </li>
      {/each}
    </ul>
  {:else}<p role="status">Looking it up…</p>{/if}
</Modal>
