<script lang="ts">
  import type { SkinPlace } from '../../api/client';
  import type { JudgedColour } from '../../parts/ByEye.svelte';
  import ColourJudge from '../../parts/ColourJudge.svelte';
  import Modal from '../../parts/Modal.svelte';
  import Swatch from '../../parts/Swatch.svelte';
  import type { ReadState } from './read.svelte';

  interface Props {
    read: ReadState;
    place: SkinPlace;
    words: string;
    open: boolean;
  }

  let { read, place, words, open = $bindable() }: Props = $props();
  let judged = $state.raw<JudgedColour | null>(null);

  $effect(() => {
    if (!open) judged = null;
  });

  async function save() {
    if (!judged) return;
    await read.readings.saveColour(place, judged.lab, judged.source, 1, judged.labSd);
    open = false;
  }
</script>

<Modal bind:open title="Colour without an instrument: {words}" wide="56">
  {#snippet actions()}
    {#if judged}<span class="flex items-center gap-2"><Swatch hex={judged.hex} size={30} />{judged.says}</span
      >{/if}
    <button class="btn btn-main" disabled={!judged} onclick={save}>Save this colour</button>
  {/snippet}
  <ColourJudge onjudged={(found) => (judged = found)} />
</Modal>
