<script lang="ts">
  import RoomBar from '../../parts/RoomBar.svelte';
  import { p, route } from '../../router';
  import DayPanel from './DayPanel.svelte';
  import DayStrip from './DayStrip.svelte';
  import LookForm from './LookForm.svelte';
  import LooksList from './LooksList.svelte';
  import SecondLook from './SecondLook.svelte';
  import { WornState } from './worn.svelte';
  import Awaited from '../../parts/Awaited.svelte';
  import { whenever } from '../../parts/whenever.svelte';

  const id = $derived(route.params.id ?? '');
  const worn = $derived(new WornState(id));
  const record = $derived(worn.record);

  whenever(
    () => worn.opening,
    (opening) => void opening.load(),
  );
</script>

<svelte:head><title>{record ? `${record.nickname}, worn` : 'Worn'} · Nabrel</title></svelte:head>

<div class="flex h-full flex-col">
  <RoomBar room="wear">
    <h1 class="font-semibold">{record?.title ?? ''}</h1>
    {#if record}
      <span class="label"
        >put on {new Date(record.worn.from).toLocaleString([], {
          dateStyle: 'medium',
          timeStyle: 'short',
        })}</span
      >
      {#if record.trial}
        <a class="btn" href={p('/trials/:id', { params: { id: record.trial.id } })}>The trial</a>
      {/if}
      <a class="btn ml-auto" href={p('/wear')}>All records</a>
      <a class="btn" href="/api/wears/{id}/file" download>Export record</a>
    {/if}
  </RoomBar>
  {#if worn.opening.failed || !record}
    <Awaited of={worn.opening} waits="Opening the record…" says="This record could not be opened" room>
      {#snippet leads()}<a class="btn" href={p('/wear')}>To the records</a>{/snippet}
    </Awaited>
  {:else}
    <main class="grid min-h-0 grow gap-2 overflow-auto p-2 lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)]">
      <LookForm {worn} />
      <div class="flex min-w-0 flex-col gap-2">
        <section class="panel p-3" aria-label="Forecast against seen">
          <h2 class="heading mb-1">Forecast against seen</h2>
          <DayStrip {record} />
        </section>
        <LooksList {worn} />
        {#if record.colours.length}<SecondLook colours={record.colours} />{/if}
        <DayPanel {worn} />
      </div>
    </main>
  {/if}
</div>
