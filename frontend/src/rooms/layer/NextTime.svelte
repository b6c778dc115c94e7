<script lang="ts">
  import { api, ask } from '../../api/client';
  import { p } from '../../router';
  import type { WorkbenchState } from './workbench.svelte';
  import { Resource } from '../../parts/resource.svelte';
  import { whenever } from '../../parts/whenever.svelte';
  import LoadFailed from '../../parts/LoadFailed.svelte';

  /** What was noted for the next time when this sitter's bases were looked at, and what of it can be done in this plan. */
  let { bench }: { bench: WorkbenchState } = $props();
  const plan = $derived(bench.doc.plan);
  const noted = new Resource(() =>
    ask(api.GET('/api/sequences/{id}/next-time', { params: { path: { id: bench.id } } })),
  );
  const notes = $derived(noted.value?.notes ?? []);
  whenever(
    () => plan && `${plan.id} ${plan.revision}`,
    (here) => here && void noted.load(),
  );
</script>

{#if noted.failed}
  <LoadFailed of={noted} says="What was noted for next time did not come" />
{:else if notes.length}
  <section class="panel p-2.5" aria-label="Noted for next time">
    <h2 class="heading">Noted for next time</h2>
    <ul class="list-disc pl-4">
      {#each notes as note (`${note.wear_id} ${note.after_min}`)}
        <li>
          {note.says}
          <a class="label underline" href={p('/wear/:id', { params: { id: note.wear_id } })}
            >{new Date(note.worn_from).toLocaleDateString([], { dateStyle: 'medium' })}</a
          >
          {#each note.offers as offer (offer.says)}
            <button
              class="btn mt-1 h-auto py-1 text-left whitespace-normal"
              disabled={bench.doc.busy}
              title={offer.comes ? `Then a rule speaks: ${offer.comes}` : undefined}
              onclick={() => bench.doc.edit(offer.edits)}
              >{offer.says}{#if offer.comes}<span class="label block">Then: {offer.comes}</span>{/if}</button
            >
          {/each}
        </li>
      {/each}
    </ul>
  </section>
{/if}
