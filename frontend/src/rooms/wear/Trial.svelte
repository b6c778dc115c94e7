<script lang="ts">
  import { api, ask, type Schemas } from '../../api/client';
  import { inHand } from '../../parts/in-hand.svelte';
  import RoomBar from '../../parts/RoomBar.svelte';
  import { tried } from '../../parts/tried';
  import { navigate, p, route } from '../../router';
  import TrialBars from './TrialBars.svelte';
  import Awaited from '../../parts/Awaited.svelte';
  import { keyed } from '../../parts/resource.svelte';

  /** Two ways on trial: what differs, what to look at and when, what was worn, and which did better. */
  const id = $derived(route.params.id ?? '');
  let trial = $state.raw<Schemas['WearTrialWire'] | null>(null);
  let busy = $state(false);
  const here = $derived({ path: { id } });
  const words = (side: string) => trial?.side_words[trial.sides.findIndex((each) => each === side)] ?? side;

  function take(found: Schemas['WearTrialWire']) {
    trial = found;
    inHand.takePlan({ id: found.sitter_id, name: found.nickname }, { id: found.plan_id, name: found.title });
  }

  const opening = keyed(
    () => here,
    (params) => ask(api.GET('/api/trials/{id}', { params })),
    take,
  );

  async function putOn(side: Schemas['PutOnBody']['side'] = null) {
    busy = true;
    const found = await tried(ask(api.POST('/api/trials/{id}/wears', { params: here, body: { side } })));
    busy = false;
    if (found) take(found);
  }

  async function forget() {
    busy = true;
    const done = await tried(ask(api.DELETE('/api/trials/{id}', { params: here })).then(() => true));
    busy = false;
    if (done) await navigate('/wear');
  }

  const moment = (text: string) =>
    new Date(text).toLocaleString([], { dateStyle: 'medium', timeStyle: 'short' });
</script>

<svelte:head><title>{trial ? `${trial.nickname}: trial` : 'Trial'} · Nabrel</title></svelte:head>

<div class="flex h-full flex-col">
  <RoomBar room="wear">
    <h1 class="font-semibold">{trial ? `${trial.title}: a trial` : ''}</h1>
    <a class="btn ml-auto" href={p('/wear')}>All records</a>
    {#if trial}<button class="btn" disabled={busy} onclick={() => void forget()}>Forget this trial</button
      >{/if}
  </RoomBar>
  {#if opening.failed || !trial}
    <Awaited of={opening} waits="Opening the trial…" says="This trial could not be opened" room>
      {#snippet leads()}<a class="btn" href={p('/wear')}>To the records</a>{/snippet}
    </Awaited>
  {:else}
    <main class="grid min-h-0 grow content-start gap-2 overflow-auto p-2 lg:grid-cols-2">
      <section class="panel p-3" aria-label="The two ways">
        <h2 class="heading mb-1">The two ways</h2>
        <ol>
          {#each trial.ways as way, place (place)}
            <li><b>{trial.side_words[place]}</b>: {way}</li>
          {/each}
        </ol>
        <h3 class="mt-2 font-semibold">What differs</h3>
        <ul class="list-disc pl-5">
          {#each trial.differs as each (each)}<li>{each}</li>{/each}
        </ul>
      </section>
      <div class="flex flex-col gap-2">
        <section class="panel p-3" aria-label="Which did better">
          <h2 class="heading mb-1">Which did better</h2>
          <TrialBars results={trial.results} ways={trial.ways} />
          {#if trial.graded.length}
            <ul class="mt-2 list-disc pl-5">
              {#each trial.graded as each (each)}<li>{each}</li>{/each}
            </ul>
          {/if}
        </section>
        <section class="panel p-3" aria-label="What to look at, and when">
          <h2 class="heading mb-1">What to look at, and when</h2>
          <ul class="list-disc pl-5">
            {#each trial.look_at as each (each)}<li>{each}</li>{/each}
          </ul>
        </section>
        <section class="panel p-3" aria-label="Worn">
          <h2 class="heading mb-1">Worn</h2>
          <div class="flex flex-wrap gap-2">
            {#if trial.how === 'halves'}
              <button class="btn btn-main" disabled={busy} onclick={() => void putOn()}
                >Both halves are on now</button
              >
            {:else}
              {#each trial.sides as side, place (side)}
                <button class="btn" disabled={busy} onclick={() => void putOn(side)}
                  >{trial.ways[place]} is on now</button
                >
              {/each}
            {/if}
          </div>
          <ul class="mt-2">
            {#each trial.worn as each (each.wear_id)}
              <li class="border-t border-line">
                <a
                  class="flex flex-wrap justify-between gap-x-3 px-1 py-1.5 hover:bg-accent-soft"
                  href={p('/wear/:id', { params: { id: each.wear_id } })}
                  ><span>{words(each.side)}, put on {moment(each.worn_from)}</span><span class="label"
                    >{each.looks === 1 ? '1 look' : `${each.looks} looks`}</span
                  ></a
                >
              </li>
            {:else}
              <li>Not worn yet. Say when it is on, then note what is seen on each.</li>
            {/each}
          </ul>
        </section>
      </div>
    </main>
  {/if}
</div>
