<script lang="ts">
  import { untrack } from 'svelte';
  import ArrowLeft from '@lucide/svelte/icons/arrow-left';
  import Printer from '@lucide/svelte/icons/printer';
  import { api, ask, type Telling } from '../../api/client';
  import FaceMap from '../../parts/FaceMap.svelte';
  import { notices } from '../../parts/notices.svelte';
  import RoomBar from '../../parts/RoomBar.svelte';
  import { today } from '../../parts/today';
  import { words } from '../../parts/vocabulary.svelte';
  import { p, route } from '../../router';
  import PlanFailed from './PlanFailed.svelte';
  import Section from './Section.svelte';
  import { WorkbenchState } from './workbench.svelte';

  /** The plan as a sheet of paper: the section, the finished face, and the sequence told. */
  const id = $derived(route.pathname.split('/')[2] ?? '');
  const bench = $derived(new WorkbenchState(id));
  const plan = $derived(bench.plan);
  let told = $state.raw<Telling | null>(null);

  $effect(() => {
    const opened = bench;
    untrack(() => void opened.load());
    ask(api.GET('/api/sequences/{id}/telling', { params: { path: { id: opened.id } } }))
      .then((found) => (told = found))
      .catch((error: unknown) => notices.refuse(error));
  });

  /** The number that a part of the steps begins with: chapters go on counting. */
  function firstNumber(at: number): number {
    const earlier = (told?.parts ?? []).slice(0, at).filter((part) => part.numbered);
    return 1 + earlier.reduce((sum, part) => sum + part.lines.length, 0);
  }
</script>

<svelte:head><title>{told?.title ?? 'Sheet'} – Nabrel</title></svelte:head>

<div class="flex min-h-full flex-col">
  <RoomBar room="layer">
    <a class="btn" href={p('/plans/:id', { params: { id } })}
      ><ArrowLeft size={15} aria-hidden="true" />To the plan</a
    >
    <button class="btn btn-main" disabled={!plan || !told} onclick={() => window.print()}
      ><Printer size={15} aria-hidden="true" />Print</button
    >
  </RoomBar>
  {#if bench.failed}
    <PlanFailed {bench} />
  {:else if !plan || !told || !words.all}
    <main class="grid grow place-items-center"><p role="status">Preparing the sheet…</p></main>
  {:else}
    <main class="sheet mx-auto my-3 w-full max-w-[52rem] p-8">
      <h1 class="text-2xl font-bold">{told.title}</h1>
      {#each told.opening as paragraph (paragraph)}<p class="my-1">{paragraph}</p>{/each}
      <div class="my-3 grid grid-cols-[minmax(0,1fr)_11rem] items-start gap-4">
        <Section {plan} at={-1} pointed={null} onchoose={() => {}} onpoint={() => {}} spare />
        <figure>
          <div class="h-64">
            <FaceMap
              proportions={plan.proportions}
              colours={bench.coloursAt(plan.steps.length - 1)}
              label="{plan.nickname}, the finished base"
            />
          </div>
          <figcaption class="text-center text-xs">
            The finished base, in {words.light(plan.light).toLowerCase()}
          </figcaption>
        </figure>
      </div>
      {#each told.parts as part, at (at)}
        <section class="mt-4">
          <h2 class="border-b border-ink text-lg font-bold">{part.title}</h2>
          <svelte:element
            this={part.numbered ? 'ol' : 'ul'}
            class={part.numbered ? 'steps' : 'list-disc pl-5'}
            start={part.numbered ? firstNumber(at) : undefined}
          >
            {#each part.lines as line, place (place)}
              <li class="my-1.5 break-inside-avoid">
                {#if line.rest || line.details.length || line.why}<b>{line.lead}</b
                  >{line.rest}{:else}{line.lead}{/if}
                {#if line.details.length || line.why}
                  <ul class="pl-1 text-sm">
                    {#each line.details as detail (detail)}<li>{detail}</li>{/each}
                    {#if line.why}<li><i>{line.why}</i></li>{/if}
                  </ul>
                {/if}
              </li>
            {/each}
          </svelte:element>
        </section>
      {/each}
      <p class="mt-4 border-t border-ink pt-2 text-xs">
        Planned with Nabrel on {today()}. A planning aid: colours on paper are not the colours on skin. The
        foundation is not sun protection.
      </p>
    </main>
  {/if}
</div>

<style>
  .sheet {
    /* Paper is white in either room. */
    --ink: #1a1a1a;
    --quiet: #4d4d4d;
    --line: #b4b4b4;
    --well: #ffffff;
    --panel: #ffffff;
    background: #ffffff;
    color: var(--ink);
    print-color-adjust: exact;
  }

  .steps {
    list-style: decimal;
    padding-left: 1.75rem;
  }

  @media print {
    .sheet {
      max-width: none;
      margin: 0;
      padding: 0;
    }
  }
</style>
