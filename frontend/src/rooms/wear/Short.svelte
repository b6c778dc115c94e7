<script lang="ts">
  import { api, ask } from '../../api/client';
  import NumberField from '../../parts/NumberField.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import { navigate, p, route } from '../../router';
  import { putOn } from './put-on';
  import Awaited from '../../parts/Awaited.svelte';
  import { keyed } from '../../parts/resource.svelte';

  /** Where the short address on a sheet leads: to the record of the base that is worn, or to the question when it was put on. */
  const code = $derived(route.params.code ?? '');
  const opening = keyed(
    () => code,
    async (of) => {
      const [short] = await Promise.all([
        ask(api.GET('/api/short/{code}', { params: { path: { code: of } } })),
        words.load(),
      ]);
      if (short.wear_id) await navigate('/wear/:id', { params: { id: short.wear_id }, replace: true });
      return short;
    },
  );
  const found = $derived(opening.value);
  let ago = $state(25);
  let busy = $state(false);

  async function begin() {
    if (!found) return;
    busy = true;
    await putOn(found.plan_id, { worn_from: new Date(Date.now() - ago * 60_000).toISOString() });
    busy = false;
  }
</script>

<svelte:head><title>{found ? `${found.nickname}, worn` : 'A look'} · Nabrel</title></svelte:head>

<main class="grid min-h-full place-items-center p-4">
  {#if opening.failed || !found || found.wear_id}
    <Awaited of={opening} waits="Opening the look…" says="This look could not be opened">
      {#snippet leads()}<a class="btn" href={p('/wear')}>To the records</a>{/snippet}
    </Awaited>
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
      <button class="btn btn-main h-touch" disabled={busy}>Note what is seen</button>
    </form>
  {/if}
</main>
