<script lang="ts">
  import type { Step } from '../../api/client';
  import { words } from '../../parts/vocabulary.svelte';

  /** The rules of the book that speak for a step as it is. */
  let { step }: { step: Step } = $props();
</script>

{#if (step.rules ?? []).some((id) => words.rule(id))}
  <div>
    <h3 class="label">Rules that speak here</h3>
    <ul class="flex flex-col gap-1">
      {#each step.rules ?? [] as id (id)}
        {@const rule = words.rule(id)}
        {#if rule}
          <li>
            <b>{rule.statement}</b>
            {rule.reason}{#if rule.other_view}<span class="label block">Another view: {rule.other_view}</span
              >{/if}
          </li>
        {/if}
      {/each}
    </ul>
  </div>
{/if}
