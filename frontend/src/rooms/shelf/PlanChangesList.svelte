<script lang="ts">
  import type { PlanChanges } from '../../api/client';
  import { words } from '../../parts/vocabulary.svelte';
  import SeverityMark from '../layer/SeverityMark.svelte';
  import type { FromPhoto } from './from-photo.svelte';

  /** What measured colours change in plans that stand, and which of these take them over. */
  let { photo, changes }: { photo: FromPhoto; changes: PlanChanges } = $props();
</script>

<section aria-label="What this changes in plans" class="mt-3 border-t-2 border-line pt-2" aria-live="polite">
  <h3 class="heading">What this changes in plans</h3>
  {#if !changes.plans.length}
    <p>No plan lays these items: what is planned from now on goes by the new colours.</p>
  {:else}
    <p class="label">
      Plans keep the kit they were made with. Tick those that take the new colours over: each as a new
      version, which undo takes back.
    </p>
    <ul>
      {#each changes.plans as plan (plan.id)}
        <li class="border-t border-line py-1">
          <label class="flex items-start gap-2"
            ><input
              type="checkbox"
              class="mt-1 accent-[var(--accent)]"
              value={plan.id}
              checked={photo.into.includes(plan.id)}
              onchange={(event) =>
                (photo.into = event.currentTarget.checked
                  ? [...photo.into, plan.id]
                  : photo.into.filter((each) => each !== plan.id))}
            /><span
              ><span class="flex flex-wrap items-center gap-x-2"
                >{#if plan.worst}<SeverityMark severity={plan.worst} />{/if}<b
                  >{plan.nickname}, {words.school(plan.school).toLowerCase()}</b
                >
                <span class="label">{plan.items.join(', ')}</span></span
              >
              {#each plan.says as line (line)}<span class="block">{line}</span>{/each}</span
            ></label
          >
        </li>
      {/each}
    </ul>
  {/if}
  {#if changes.looked_at < changes.all_plans}
    <p class="label">Of {changes.all_plans} plans the {changes.looked_at} changed last were looked at.</p>
  {/if}
</section>
