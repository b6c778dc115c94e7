<script lang="ts">
  import { api, ask, type Schemas } from '../../api/client';
  import { tried } from '../../parts/tried';
  import { p } from '../../router';

  /** What was noted for the next time when this sitter's bases were looked at. */
  let { sitterId }: { sitterId: string } = $props();
  let notes = $state.raw<Schemas['NextTimeWire'][]>([]);

  $effect(() => {
    const id = sitterId;
    void tried(ask(api.GET('/api/sitters/{id}/next-time', { params: { path: { id } } }))).then((found) => {
      if (id === sitterId) notes = found?.notes ?? [];
    });
  });
</script>

{#if notes.length}
  <section class="panel p-2.5" aria-label="Noted for next time">
    <h2 class="heading">Noted for next time</h2>
    <ul class="list-disc pl-4">
      {#each notes as note (`${note.wear_id} ${note.after_min}`)}
        <li>
          {note.says}
          <a class="label underline" href={p('/wear/:id', { params: { id: note.wear_id } })}
            >{new Date(note.worn_from).toLocaleDateString([], { dateStyle: 'medium' })}</a
          >
        </li>
      {/each}
    </ul>
  </section>
{/if}
