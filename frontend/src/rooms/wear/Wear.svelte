<script lang="ts">
  import { onMount } from 'svelte';
  import { api, ask, type Schemas } from '../../api/client';
  import { inHand } from '../../parts/in-hand.svelte';
  import RoomBar from '../../parts/RoomBar.svelte';
  import { tried } from '../../parts/tried';
  import { words } from '../../parts/vocabulary.svelte';
  import { p } from '../../router';
  import { after } from './hours';
  import LearntPanel from './LearntPanel.svelte';
  import { putOn } from './put-on';

  let rows = $state.raw<Schemas['WearRowWire'][] | null>(null);
  let found = $state.raw<Schemas['LearntWire'] | null>(null);
  let mine = $state(false);
  const shown = $derived((rows ?? []).filter((row) => !mine || row.sitter_id === inHand.sitter?.id));

  onMount(async () => {
    const [, list, learnt] = await Promise.all([
      words.load(),
      tried(ask(api.GET('/api/wears'))),
      tried(ask(api.GET('/api/learnt'))),
    ]);
    [rows, found] = [list?.wears ?? [], learnt];
  });
</script>

<svelte:head><title>Wear · Nabrel</title></svelte:head>

<div class="flex h-full flex-col">
  <RoomBar room="wear">
    <h1 class="font-semibold">Wear</h1>
    {#if inHand.plan}
      <button class="btn btn-main" onclick={() => void putOn(inHand.plan!.id, {})}
        >{inHand.sitter?.name} wears it now</button
      >
    {/if}
    {#if inHand.sitter}
      <button class="btn" aria-pressed={mine} onclick={() => (mine = !mine)}>Only {inHand.sitter.name}</button
      >
    {/if}
  </RoomBar>
  <main class="flex min-h-0 grow flex-col gap-2 overflow-auto p-2">
    <section class="panel shrink-0 p-3" aria-label="Records">
      <h2 class="heading mb-1">Records</h2>
      {#if rows === null}
        <p role="status">Looking…</p>
      {:else if !shown.length}
        <p>
          No base has been looked at yet. Open a plan and say here that it is worn, or finish a run; then note
          what is seen 20 to 30 minutes later, and again in some hours.
        </p>
      {:else}
        <ul class="flex flex-col gap-1">
          {#each shown as row (row.wear_id)}
            <li class="flex flex-wrap items-baseline gap-3">
              <a class="btn" href={p('/wear/:id', { params: { id: row.wear_id } })}
                >{row.nickname},
                {new Date(row.worn_from).toLocaleString([], { dateStyle: 'medium', timeStyle: 'short' })}</a
              >
              <span>{row.title}</span>
              <span class="label"
                >{row.looks === 1 ? '1 look' : `${row.looks} looks`}{row.last_min === null
                  ? ''
                  : `, the last after ${after(row.last_min)}`}</span
              >
              <span
                >{row.signs.map((sign) => words.sign(sign)).join(', ') ||
                  (row.looks ? 'nothing seen' : '')}</span
              >
            </li>
          {/each}
        </ul>
      {/if}
    </section>
    {#if found?.learnt.records}<LearntPanel {found} />{/if}
  </main>
</div>
