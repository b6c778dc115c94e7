<script lang="ts">
  import { onMount } from 'svelte';
  import { api, ask, type Damaged } from '../api/client';

  /** Records that cannot be read, of some kinds or of all that rooms list. What shows them comes only where there are any. */
  let { kinds = [], onerased }: { kinds?: string[]; onerased?: () => void } = $props();
  let records = $state.raw<Damaged[]>([]);
  const shown = $derived(records.filter((each) => kinds.length === 0 || kinds.includes(each.kind)));

  async function load() {
    const found = await ask(api.GET('/api/damaged')).catch(() => null);
    records = found?.records ?? [];
  }

  onMount(load);
</script>

{#if shown.length}
  {#await import('./DamagedList.svelte') then { default: DamagedList }}
    <DamagedList records={shown} onerased={() => (void load(), onerased?.())} />
  {/await}
{/if}
