<script lang="ts">
  import { onMount } from 'svelte';
  import { api, ask, type Schemas } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import { inHand } from '../../parts/in-hand.svelte';
  import { Latest } from '../../parts/latest';
  import RoomBar from '../../parts/RoomBar.svelte';
  import { tried } from '../../parts/tried';
  import { words } from '../../parts/vocabulary.svelte';
  import { p } from '../../router';
  import { after } from './hours';
  import ImportDialog from './ImportDialog.svelte';
  import LearntPanel from './LearntPanel.svelte';
  import { putOn } from './put-on';
  import SeasonPanel from './SeasonPanel.svelte';
  import { Resource } from '../../parts/resource.svelte';
  import LoadFailed from '../../parts/LoadFailed.svelte';
  import Waiting from '../../parts/Waiting.svelte';

  let rows = $state.raw<Schemas['WearListed'][] | null>(null);
  let whose = $state('');
  let sign = $state('');
  let total = $state(0);
  let owners = $state.raw<Schemas['WearsWire']['owners']>([]);
  let busy = $state(false);
  const people = $derived([
    { id: '', words: 'Everybody' },
    ...owners.map(({ id, name }) => ({ id, words: name })),
  ]);
  const signs = $derived([
    { id: '', words: 'Whatever was seen' },
    ...(words.all?.signs ?? []).map(({ id, words: said }) => ({ id: id as string, words: said })),
  ]);

  const asked = new Latest();

  /** The list as filtered; more of it goes after what is shown. */
  async function list(skip = 0) {
    busy = true;
    const query = {
      ...(whose ? { sitter: whose } : {}),
      ...(sign ? { sign: sign as Schemas['SignInfo']['id'] } : {}),
      skip,
    };
    const found = await tried(asked.of(ask(api.GET('/api/wears', { params: { query } }))));
    if (found === undefined) return;
    busy = false;
    if (!found) return;
    [total, owners] = [found.total, found.owners];
    rows = skip ? [...(rows ?? []), ...found.wears] : found.wears;
  }

  const opening = new Resource(async () => {
    const [, learnt, { trials }] = await Promise.all([
      list(),
      ask(api.GET('/api/learnt')),
      ask(api.GET('/api/trials')),
      words.load(),
    ]);
    if (rows === null) throw new Error('The records did not come.');
    return { learnt, trials };
  });
  const found = $derived(opening.value?.learnt ?? null);
  const trials = $derived(opening.value?.trials ?? []);

  onMount(() => void opening.load());
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
    <Choice label="Whose" value={whose} options={people} onchoose={(id) => ((whose = id), void list())} />
    <Choice
      label="What was seen"
      value={sign}
      options={signs}
      onchoose={(id) => ((sign = id), void list())}
    />
    <span class="ml-auto"></span>
    <ImportDialog onimport={() => opening.load()} />
    {#if owners.length}
      <a class="btn" href="/api/wears/table{whose ? `?sitter=${whose}` : ''}" download>Export looks (CSV)</a>
    {/if}
  </RoomBar>
  <main
    class="grid min-h-0 grow gap-2 overflow-auto p-2 lg:grid-cols-[minmax(20rem,2fr)_minmax(0,3fr)] lg:overflow-hidden"
  >
    <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
    <section class="panel overflow-auto p-3" aria-label="Records" tabindex="0">
      {#if trials.length}
        <h2 class="heading mb-1">Trials</h2>
        <ul class="mb-3">
          {#each trials as trial (trial.trial_id)}
            <li class="border-t border-line">
              <a
                class="block px-1 py-1.5 hover:bg-accent-soft"
                href={p('/trials/:id', { params: { id: trial.trial_id } })}
                ><b>{trial.nickname}</b>: {trial.ways.join(' against ')},
                <span class="label">{trial.how === 'halves' ? 'on two halves' : 'on two days'}</span></a
              >
            </li>
          {/each}
        </ul>
      {/if}
      <h2 class="heading mb-1">Records{total ? ` (${total})` : ''}</h2>
      {#if opening.failed}
        <LoadFailed of={opening} says="{rows ? 'Part of this' : 'What was worn'} could not be loaded" />
      {/if}
      {#if rows === null}
        {#if !opening.failed}<Waiting for="Looking…" />{/if}
      {:else if !rows.length && !whose && !sign}
        <p>
          No base has been looked at yet. Open a plan and say here that it is worn, or finish a run; then note
          what is seen 20 to 30 minutes later, and again in some hours.
        </p>
      {:else if !rows.length}
        <p>No record is like that. Choose everybody, or whatever was seen.</p>
      {:else}
        <ul>
          {#each rows as row (row.wear_id)}
            <li class="border-t border-line">
              <a
                class="block px-1 py-1.5 hover:bg-accent-soft"
                href={p('/wear/:id', { params: { id: row.wear_id } })}
              >
                <span class="flex flex-wrap justify-between gap-x-3"
                  ><b>{row.nickname}</b><span class="label"
                    >{new Date(row.worn_from).toLocaleString([], {
                      dateStyle: 'medium',
                      timeStyle: 'short',
                    })}</span
                  ></span
                >
                <span class="flex flex-wrap justify-between gap-x-3"
                  ><span
                    >{row.signs.map((each) => words.sign(each)).join(', ') ||
                      (row.looks ? 'Nothing to see' : 'No look yet')}</span
                  ><span class="label"
                    >{row.looks === 1 ? '1 look' : `${row.looks} looks`}{row.last_min === null
                      ? ''
                      : `, the last after ${after(row.last_min)}`}</span
                  ></span
                >
              </a>
            </li>
          {/each}
        </ul>
        {#if rows.length < total}
          <button class="btn mt-2" disabled={busy} onclick={() => void list(rows?.length)}
            >Show {Math.min(100, total - rows.length)} more</button
          >
        {/if}
      {/if}
    </section>
    <div class="flex min-h-0 flex-col gap-2 lg:overflow-auto">
      {#if owners.length}
        <SeasonPanel sitter={whose} name={people.find((each) => whose && each.id === whose)?.words ?? ''} />
      {/if}
      {#if found === null && owners.length && !opening.failed}<p class="panel p-3" role="status">
          Learning from the records…
        </p>{/if}
      {#if found?.learnt.records}<LearntPanel
          {found}
          onchange={(now) => (opening.value = { learnt: now, trials })}
        />{/if}
    </div>
  </main>
</div>
