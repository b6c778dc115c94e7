<script lang="ts">
  import type { Step } from '../../api/client';
  import { words } from '../../parts/vocabulary.svelte';
  import { activeOf } from '../../plan/steps';
  import AmountField from './AmountField.svelte';
  import type { WorkbenchState } from './workbench.svelte';

  /** How long to wait after a step. */
  let { bench, step }: { bench: WorkbenchState; step: Step } = $props();
</script>

<div>
  <p class="label">Wait after {activeOf(step)} s of work</p>
  <AmountField
    value={step.wait_s ?? 0}
    unit="s"
    label="Wait"
    step={10}
    most={words.limit('wait_s').high}
    onset={(wait_s) =>
      bench.doc.edit([
        {
          edit: 'wait',
          step: step.id,
          wait_s,
          // A longest wait that is shorter than the least one has no meaning any more.
          wait_at_most_s: (step.wait_at_most_s ?? 0) >= wait_s ? step.wait_at_most_s : null,
        },
      ])}
  />
  {#if step.wait_at_most_s}<p class="mt-1">Go on within {step.wait_at_most_s} s.</p>{/if}
</div>
