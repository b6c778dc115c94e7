<script lang="ts">
  import { api, ask, type School } from '../../api/client';
  import Modal from '../../parts/Modal.svelte';
  import type { WorkbenchState } from './workbench.svelte';
  import { Resource } from '../../parts/resource.svelte';
  import { whenever } from '../../parts/whenever.svelte';
  import Awaited from '../../parts/Awaited.svelte';

  let { bench, open = $bindable() }: { bench: WorkbenchState; open: boolean } = $props();
  const ranking = new Resource(() =>
    ask(api.GET('/api/sequences/{id}/schools', { params: { path: { id: bench.id } } })),
  );
  const ranked = $derived(ranking.value?.schools);
  whenever(
    () => open,
    (on) => {
      if (!on) return;
      ranking.forget();
      void ranking.load();
    },
  );

  function take(school: School) {
    open = false;
    if (school !== bench.doc.plan?.school) void bench.proposal.consider({ school });
  }
</script>

<Modal bind:open title="Which school here?" wide="56">
  {#snippet about()}
    All six planned anew on this face and these wishes, the one that suits best first. Nobody is wrong: take
    the one you mean to teach.
  {/snippet}
  {#if ranking.failed || !ranked}
    <Awaited of={ranking} waits="Planning this face six ways…" says="The schools could not be planned" />
  {:else}
    <ol aria-label="Schools, best first" class="flex flex-col gap-2">
      {#each ranked as each, place (each.school)}
        <li class="card p-2.5">
          <div class="flex flex-wrap items-baseline gap-x-3">
            <h3 class="text-base font-semibold">{place + 1}. {each.words}</h3>
            {#if each.school === bench.doc.plan?.school}<b class="label">this plan's school</b>{/if}
            <span class="label"
              >{each.steps} steps · {Math.round(each.minutes)} min · {each.mean_film_um.toFixed(1)} µm a zone ·
              fullest
              {Math.round(each.worst_cake * 100)} % · shine {each.shine_hours.toFixed(1)} h{each.shine_looks
                ? `, learnt from ${each.shine_looks} ${each.shine_looks === 1 ? 'look' : 'looks'}`
                : ''}{each.cost == null ? '' : ` · ${each.cost.toFixed(2)} a face`} · {each.findings}
              {each.findings === 1 ? 'finding' : 'findings'}</span
            >
            <button class="btn ml-auto" onclick={() => take(each.school)}
              >{each.school === bench.doc.plan?.school ? 'Stay with it' : 'Look at it'}<span class="sr-only"
                >: {each.words}</span
              ></button
            >
          </div>
          <div class="grid gap-x-4 sm:grid-cols-2">
            <p>
              <b class="label">For it</b>
              {each.speaks_for.join('; ') || 'nothing in particular'}
            </p>
            <p>
              <b class="label">Against it</b>
              {each.speaks_against.join('; ') || 'nothing in particular'}
            </p>
          </div>
        </li>
      {/each}
    </ol>
  {/if}
</Modal>
