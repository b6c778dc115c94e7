<script lang="ts">
  import { searchParams } from 'sv-router';
  import ArrowLeft from '@lucide/svelte/icons/arrow-left';
  import Download from '@lucide/svelte/icons/download';
  import Printer from '@lucide/svelte/icons/printer';
  import { api, ask, type SheetInfo, type Telling } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import { inHand } from '../../parts/in-hand.svelte';
  import { Latest } from '../../parts/latest';
  import { pacesOf } from '../../parts/paces';
  import RoomBar from '../../parts/RoomBar.svelte';
  import { tried } from '../../parts/tried';
  import { p, route } from '../../router';
  import ToldParts from './ToldParts.svelte';
  import { reason } from '../../parts/reason';

  /** The plan as a sheet of paper: the pages of the PDF themselves, and below them the plan in words. */
  const PAPERS = [
    { id: 'a4' as const, words: 'A4' },
    { id: 'letter' as const, words: 'Letter' },
  ];
  const id = $derived(route.pathname.split('/')[2] ?? '');
  const paper = $derived(searchParams.get('paper') === 'letter' ? ('letter' as const) : ('a4' as const));
  const large = $derived(searchParams.get('large') !== null);
  const leftHanded = $derived(searchParams.get('left_handed') !== null);
  const pace = $derived(Number(searchParams.get('pace') ?? 1) || 1);
  const how = $derived({ paper, large, left_handed: leftHanded, pace });
  const asked = $derived(`paper=${paper}&large=${large}&left_handed=${leftHanded}&pace=${pace}`);
  let sheet = $state.raw<SheetInfo | null>(null);
  let told = $state.raw<Telling | null>(null);
  let failed = $state('');

  /** Asked again where no answer came. */
  let again = $state(0);

  const drawn = new Latest();
  const read = new Latest();

  $effect(() => {
    const path = { path: { id } };
    void again;
    failed = '';
    drawn
      .of(ask(api.GET('/api/sequences/{id}/sheet', { params: { ...path, query: how } })))
      .then((found) => {
        if (!found) return;
        sheet = found;
        inHand.takePlan(
          { id: found.sitter_id, name: found.nickname },
          { id: path.path.id, name: found.plan },
        );
      })
      .catch((error: unknown) => (failed = reason(error)));
  });

  $effect(() => {
    void again;
    void tried(
      read.of(ask(api.GET('/api/sequences/{id}/telling', { params: { path: { id }, query: { pace } } }))),
    ).then((found) => (told = found ?? told));
  });

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
  {#if failed}
    <main class="grid grow place-items-center p-6">
      <p role="alert">
        This sheet cannot be shown: {failed}
        <button class="btn" onclick={() => (again += 1)}>Try again</button>
      </p>
    </main>
  {:else if !sheet}
    <main class="grid grow place-items-center"><p role="status">Preparing the sheet…</p></main>
  {:else}
    <main class="mx-auto flex w-full max-w-[58rem] grow flex-col gap-3 p-3 {paper}">
      {#each { length: sheet.pages }, at (at)}
        <img
          class="w-full bg-white"
          src="/api/sequences/{id}/sheet/{at + 1}?{asked}"
          alt="{sheet.title}: page {at + 1} of {sheet.pages}. The same in words below."
        />
      {/each}
      {#if told}
        <details class="panel no-print p-4">
          <summary class="font-bold">The plan in words</summary>
          <ToldParts {told} />
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
