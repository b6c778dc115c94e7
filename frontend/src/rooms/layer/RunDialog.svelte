<script lang="ts">
  import Modal from '../../parts/Modal.svelte';
  import NumberField from '../../parts/NumberField.svelte';
  import type { WorkbenchState } from './workbench.svelte';

  let { bench, open = $bindable() }: { bench: WorkbenchState; open: boolean } = $props();
  let sitters = $state(1);

  async function record() {
    open = false;
    await bench.doc.recordRun(sitters);
  }
</script>

<Modal bind:open title="Subtract from stock" wide="34">
  {#snippet about()}
    Records this plan as done: each pack on the shelf loses what the steps took, and its tools count as used
    until they are washed.
  {/snippet}
  {#snippet actions()}
    <button class="btn btn-main" onclick={record}>Record it</button>
  {/snippet}
  <NumberField
    label="On how many faces"
    value={sitters}
    of="faces"
    onset={(next) => (sitters = Math.round(next))}
  />
</Modal>
