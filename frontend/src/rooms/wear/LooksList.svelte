<script lang="ts">
  import Face from '../../parts/face/Face.svelte';
  import Modal from '../../parts/Modal.svelte';
  import { after } from './hours';
  import type { Look, WornState } from './worn.svelte';

  /** The looks that were noted, each with its photograph beside the predicted face. */
  let { worn }: { worn: WornState } = $props();
  const record = $derived(worn.record!);
  let shown = $state<Look | null>(null);

  async function attach(look: Look, input: HTMLInputElement) {
    const file = input.files?.[0];
    if (file) await worn.attach(look.after_min, file);
    input.value = '';
  }

  async function detach() {
    if (shown && (await worn.detach(shown.after_min))) shown = null;
  }
</script>

<section class="panel p-3" aria-label="Looks">
  <h2 class="heading mb-1">Looks</h2>
  <ul class="flex flex-col gap-2">
    {#each record.looks as look, place (look.after_min)}
      <li class="flex flex-wrap items-center gap-2 border-t border-line pt-2 first:border-0 first:pt-0">
        <b class="tabular-nums">{after(look.after_min)}</b>
        {#if look.photo}
          <button
            class="rounded-control border border-line"
            aria-label="Show the photograph after {after(look.after_min)}"
            onclick={() => (shown = look)}
            ><img
              class="h-12 w-12 rounded-control object-cover"
              alt=""
              src="/api/wears/{worn.id}/photo/{look.photo}"
            /></button
          >
        {/if}
        <span class="min-w-60 flex-1"
          >{record.looks_say[place]}
          {look.note}{#if look.next_time}
            <i>Next time: {look.next_time}</i>{/if}</span
        >
        <span class="flex flex-wrap gap-1">
          <label class="btn h-control cursor-pointer px-2"
            >{look.photo ? 'Another photograph' : 'Add photograph'}<span class="sr-only">
              to the look after {after(look.after_min)}</span
            ><input
              class="sr-only"
              type="file"
              accept="image/jpeg,image/png,image/webp,image/heic,.heic"
              disabled={worn.busy}
              onchange={(event) => void attach(look, event.currentTarget)}
            /></label
          >
          <button
            class="btn h-control px-2"
            aria-label="Edit the look after {after(look.after_min)}"
            onclick={() => worn.edit(look)}>Edit</button
          >
          <button
            class="btn h-control px-2"
            aria-label="Forget the look after {after(look.after_min)}"
            onclick={() => void worn.forget(look.after_min)}>Forget</button
          >
        </span>
      </li>
    {:else}
      <li>No look yet. The second look comes 20 to 30 minutes after the last layer.</li>
    {/each}
  </ul>
</section>

<Modal
  bind:open={
    () => shown !== null,
    (open) => {
      if (!open) shown = null;
    }
  }
  title="{record.nickname}, after {shown ? after(shown.after_min) : ''}"
  wide="56"
>
  {#snippet about()}
    The photograph beside the face as it was forecast. It is kept here without place, time or camera, and goes
    when the sitter is erased.
  {/snippet}
  {#snippet actions()}
    <button class="btn" disabled={worn.busy} onclick={() => void detach()}>Forget the photograph</button>
  {/snippet}
  {#if shown?.photo}
    <div class="grid gap-3 sm:grid-cols-2">
      <img
        class="max-h-[60vh] w-full object-contain"
        alt="{record.nickname} after {after(shown.after_min)}"
        src="/api/wears/{worn.id}/photo/{shown.photo}"
      />
      <div class="h-[60vh]">
        <Face
          label="{record.nickname} as forecast"
          drawn={{ colours: record.hexes, proportions: record.proportions }}
        />
      </div>
    </div>
  {/if}
</Modal>
