<script lang="ts">
  import type { PlanChanges } from '../api/client';
  import SeverityMark from '../rooms/layer/SeverityMark.svelte';
  import { words } from './vocabulary.svelte';

  interface Props {
    changes: PlanChanges;
    /** What is said where no plan would change. */
    none: string;
    /** The plans that take it over, where they may. */
    into?: readonly string[];
  }

  /** What measured colours change in plans that stand, and where it can be chosen, which of these take them over. */
  let { changes, none, into = $bindable() }: Props = $props();

  function set(id: string, on: boolean) {
    const rest = (into ?? []).filter((each) => each !== id);
    into = on ? [...rest, id] : rest;
  }
</script>

{#snippet told(plan: PlanChanges['plans'][number])}
  <span
    ><span class="flex flex-wrap items-center gap-x-2"
      >{#if plan.worst}<SeverityMark severity={plan.worst} />{/if}<b
        >{plan.nickname}, {words.school(plan.school).toLowerCase()}</b
      >
      <span class="label">{plan.what.join(', ')}</span></span
    >{#each plan.says as line (line)}<span class="block">{line}</span>{/each}</span
  >
{/snippet}

<section aria-label="What this changes in plans" class="mt-3 border-t-2 border-line pt-2" aria-live="polite">
  <h3 class="heading">What this changes in plans</h3>
  {#if !changes.plans.length}
    <p>{none}</p>
  {:else}
    {#if into}
      <p class="label">
        Plans keep the kit they were made with. Tick those that take the new colours over: each as a new
        version, which undo takes back.
      </p>
    {:else}
      <p class="label">Plans keep the face they were made for until they are planned anew.</p>
    {/if}
    <ul>
      {#each changes.plans as plan (plan.id)}
        <li class="border-t border-line py-1">
          {#if into}
            <label class="flex items-start gap-2"
              ><input
                type="checkbox"
                class="mt-1 accent-[var(--accent)]"
                checked={into.includes(plan.id)}
                onchange={(event) => set(plan.id, event.currentTarget.checked)}
              />{@render told(plan)}</label
            >
          {:else}
            {@render told(plan)}
          {/if}
        </li>
      {/each}
    </ul>
  {/if}
  {#if changes.looked_at < changes.all_plans}
    <p class="label">Of {changes.all_plans} plans the {changes.looked_at} changed last were looked at.</p>
  {/if}
</section>
