<script lang="ts">
  import ByEye, { type JudgedColour } from '../../parts/ByEye.svelte';
  import Modal from '../../parts/Modal.svelte';
  import type { ShelfState } from './shelf.svelte';

  /** The generic kit, made for a depth of skin: something to start from. */
  let { shelf, open = $bindable() }: { shelf: ShelfState; open: boolean } = $props();
  let judged = $state.raw<JudgedColour | null>(null);

  async function add() {
    if (judged && (await shelf.addGeneric(judged.lab))) open = false;
  }
</script>

<Modal bind:open title="Start from the generic kit" wide="56">
  {#snippet about()}One plainly named item of each kind, for the skin you tap. All of it is marked as guessed.{/snippet}
  {#snippet actions()}
    <button class="btn btn-main" disabled={shelf.busy || !judged} onclick={add}>Put it on the shelf</button>
  {/snippet}
  <ByEye onjudged={(found) => (judged = found)} />
</Modal>
