<script lang="ts">
  import { searchParams } from 'sv-router';
  import ArrowLeft from '@lucide/svelte/icons/arrow-left';
  import Download from '@lucide/svelte/icons/download';
  import Printer from '@lucide/svelte/icons/printer';
  import { api, ask } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import { inHand } from '../../parts/in-hand.svelte';
  import { pacesOf } from '../../parts/paces';
  import RoomBar from '../../parts/RoomBar.svelte';
  import { p, route } from '../../router';
  import ToldParts from './ToldParts.svelte';
  import Awaited from '../../parts/Awaited.svelte';
  import { Resource } from '../../parts/resource.svelte';
  import { whenever } from '../../parts/whenever.svelte';
  import LoadFailed from '../../parts/LoadFailed.svelte';

  /** The plan as a sheet of paper: the pages of the PDF themselves, and below them the plan in words. */
  const PAPERS = [
    { id: 'a4' as const, words: 'A4' },
    { id: 'letter' as const, words: 'Letter' },
  ];
  const id = $derived(route.params.id ?? '');
  const paper = $derived(searchParams.get('paper') === 'letter' ? ('letter' as const) : ('a4' as const));
  const large = $derived(searchParams.get('large') !== null);
  const leftHanded = $derived(searchParams.get('left_handed') !== null);
  const pace = $derived(Number(searchParams.get('pace') ?? 1) || 1);
  const how = $derived({ paper, large, left_handed: leftHanded, pace });
  const asked = $derived(`paper=${paper}&large=${large}&left_handed=${leftHanded}&pace=${pace}`);
  // What was shown before stays until the next comes: only the paper changes.
  const drawing = new Resource(
    () => ask(api.GET('/api/sequences/{id}/sheet', { params: { path: { id }, query: how } })),
    (found) => inHand.takePlan({ id: found.sitter_id, name: found.nickname }, { id, name: found.plan }),
  );
  const sheet = $derived(drawing.value);
  const telling = new Resource(() =>
    ask(api.GET('/api/sequences/{id}/telling', { params: { path: { id }, query: { pace } } })),
  );
  /** Both are tried again together: where the one did not come, the other hardly did. */
  const both = {
    get failed() {
      return drawing.failed;
    },
    get loading() {
      return drawing.loading;
    },
    load: () => Promise.all([drawing.load(), telling.load()]),
  };
  whenever(
    () => [id, how],
    () => void drawing.load(),
  );
  whenever(
    () => [id, pace],
    () => void telling.load(),
  );

  function set(name: string, value: string | null) {
    if (value === null) searchParams.delete(name, undefined, { replace: true });
    else searchParams.set(name, value, { replace: true });
  }
</script>

<svelte:head><title>{sheet?.title ?? 'Sheet'} – Nabrel</title></svelte:head>

<div class="flex min-h-full flex-col">
  <RoomBar room="layer">
    <a class="btn" href={p('/plans/:id', { params: { id } })}
      ><ArrowLeft size={15} aria-hidden="true" />To the plan</a
    >
    <Choice
      label="Paper"
      value={paper}
      options={PAPERS}
      onchoose={(chosen) => set('paper', chosen === 'a4' ? null : chosen)}
    />
    <Choice
      label="Whose hand"
      value={String(pace)}
      options={pacesOf(sheet?.student_pace ?? 2)}
      onchoose={(chosen) => set('pace', chosen === '1' ? null : chosen)}
    />
    <button class="btn" aria-pressed={large} onclick={() => set('large', large ? null : '1')}
      >Large type</button
    >
    <button class="btn" aria-pressed={leftHanded} onclick={() => set('left_handed', leftHanded ? null : '1')}
      >Left-handed</button
    >
    <a class="btn" href="/api/sequences/{id}/slip.pdf?paper={paper}" download>Slip for the sitter</a>
    <a class="btn" href="/api/sequences/{id}/sheet.pdf?{asked}" download
      ><Download size={15} aria-hidden="true" />Save as PDF</a
    >
    <button class="btn btn-main" disabled={!sheet} onclick={() => window.print()}
      ><Printer size={15} aria-hidden="true" />Print</button
    >
  </RoomBar>
  {#if drawing.failed || !sheet}
    <Awaited of={both} waits="Preparing the sheet…" says="This sheet cannot be shown" room />
  {:else}
    <main class="mx-auto flex w-full max-w-[58rem] grow flex-col gap-3 p-3 {paper}">
      {#each { length: sheet.pages }, at (at)}
        <img
          class="w-full bg-white"
          src="/api/sequences/{id}/sheet/{at + 1}?{asked}"
          alt="{sheet.title}: page {at + 1} of {sheet.pages}. The same in words below."
        />
      {/each}
      {#if telling.failed}
        <LoadFailed of={telling} says="The plan in words did not come" />
      {:else if telling.value}
        <details class="panel no-print p-4">
          <summary class="font-bold">The plan in words</summary>
          <ToldParts told={telling.value} />
        </details>
      {/if}
    </main>
  {/if}
</div>

<style>
  @media print {
    main {
      display: block;
      max-width: none;
      padding: 0;
    }

    img {
      display: block;
      width: 100%;
      break-after: page;
    }
  }

  @page {
    margin: 0;
  }
</style>
