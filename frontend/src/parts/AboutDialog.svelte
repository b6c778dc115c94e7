<script lang="ts">
  import { api, ask } from '../api/client';
  import Modal from './Modal.svelte';
  import { Resource } from './resource.svelte';
  import { whenever } from './whenever.svelte';
  import Awaited from './Awaited.svelte';

  /** Which Nabrel this is, where its data lie, and the licences of all that ships with it. */
  let { open = $bindable() }: { open: boolean } = $props();
  const facts = new Resource(() => ask(api.GET('/api/about')));
  const found = $derived(facts.value);
  whenever(
    () => open,
    (on) => on && !facts.value && void facts.load(),
  );
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
  {:else}<Awaited of={facts} waits="Looking it up…" says="It could not be looked up" />{/if}
</Modal>
