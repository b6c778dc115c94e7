<script lang="ts">
  import { untrack } from 'svelte';
  import { api, ask, type Schemas } from '../../api/client';
  import NumberField from '../../parts/NumberField.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import { navigate, p, route } from '../../router';
  import { putOn } from './put-on';
  import { reason } from '../../parts/reason';

  /** Where the short address on a sheet leads: to the record of the base that is worn, or to the question when it was put on. */
  const code = $derived(route.params.code ?? '');
  let found = $state.raw<Schemas['ShortWire'] | null>(null);
  let failed = $state<string | null>(null);
  let ago = $state(25);
  let busy = $state(false);

  async function load(params: { path: { code: string } }) {
    failed = null;
    try {
      const [short] = await Promise.all([ask(api.GET('/api/short/{code}', { params })), words.load()]);
      found = short;
      if (short.wear_id) await navigate('/wear/:id', { params: { id: short.wear_id }, replace: true });
    } catch (error) {
      failed = reason(error);
    }
  }

  $effect(() => {
    const params = { path: { code } };
    untrack(() => void load(params));
  });

  async function begin() {
    if (!found) return;
    busy = true;
    await putOn(found.plan_id, { worn_from: new Date(Date.now() - ago * 60_000).toISOString() });
    busy = false;
  }
</script>

<svelte:head><title>{found ? `${found.nickname}, worn` : 'A look'} · Nabrel</title></svelte:head>

<main class="grid min-h-full place-items-center p-4">
  {#if failed}
    <div class="panel max-w-md p-6 text-center" role="alert">
      <h1 class="heading text-lg">This look could not be opened</h1>
      <p class="my-2">{failed}</p>
      <button class="btn" onclick={() => void load({ path: { code } })}>Try again</button>
      <a class="btn" href={p('/wear')}>To the records</a>
    </div>
  {:else if !found || found.wear_id}
    <p role="status">Opening the look…</p>
  {:else}
    <form
      class="panel flex w-full max-w-md flex-col gap-3 p-6"
      onsubmit={(event) => {
        event.preventDefault();
        void begin();
      }}
    >
      <h1 class="heading text-lg">{found.nickname}: {found.title}</h1>
      <NumberField
        label="Minutes since it was put on"
        value={ago}
        of="after_min"
        onset={(minutes) => (ago = minutes)}
      />
      <button class="btn btn-main h-11" disabled={busy}>Note what is seen</button>
    </form>
  {/if}
</main>
