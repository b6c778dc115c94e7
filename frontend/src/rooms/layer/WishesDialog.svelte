<script lang="ts">
  import Modal from '../../parts/Modal.svelte';
  import WishesForm from '../../parts/WishesForm.svelte';
  import { WishesState } from './wishes.svelte';
  import type { WorkbenchState } from './workbench.svelte';

  let { bench, open = $bindable() }: { bench: WorkbenchState; open: boolean } = $props();
  const wishes = $derived(bench.doc.plan ? new WishesState(bench.doc.plan.intent) : null);

  function consider() {
    if (!wishes?.any) return;
    open = false;
    void bench.proposal.consider(wishes.wish);
  }
</script>

<Modal bind:open title="Wishes and ways of working" wide="56">
  {#snippet about()}
    What is wanted, the day it is worn on, and the ways of working that practitioners dispute, each with its
    reason.
  {/snippet}
  {#snippet actions()}
    <button class="btn btn-main" disabled={!wishes?.any} onclick={consider}>See what it would change</button>
  {/snippet}
  {#if wishes && bench.doc.plan}
    {@const { sitter_id: id, nickname, proportions } = bench.doc.plan}
    <WishesForm
      intent={wishes.now}
      onset={(change) => wishes.set(change)}
      sitter={{ id, nickname, proportions, colours: bench.stage.coloursAt(-1) }}
    />
  {/if}
</Modal>
