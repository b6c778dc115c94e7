<script lang="ts">
  import Star from '@lucide/svelte/icons/star';
  import Users from '@lucide/svelte/icons/users';
  import type { PlanSummary } from '../../api/client';
  import { words } from '../../parts/vocabulary.svelte';
  import { p } from '../../router';
  import AdaptDialog from './AdaptDialog.svelte';
  import type { HomeState } from './home.svelte';

  /** The plans of the sitter who is looked at: when, how many versions, favourites first. */
  let { home }: { home: HomeState } = $props();
  let adapting = $state.raw<PlanSummary | null>(null);
  const day = (text: string) => text.slice(0, 10);

  function versions(plan: PlanSummary): string {
    const all = `${plan.versions} ${plan.versions === 1 ? 'version' : 'versions'}`;
    return plan.named ? `${all}, ${plan.named} named` : all;
  }
</script>

<section class="panel p-4" aria-label="Plans">
  <h3 class="heading mb-1">Plans</h3>
  <ul>
    {#each home.plans as plan (plan.id)}
      <li class="flex flex-wrap items-center gap-x-3 gap-y-1 border-t border-line py-1 first:border-0">
        <button
          class="btn h-control-s px-1.5"
          aria-pressed={plan.favourite}
          aria-label="Favourite: {plan.title}"
          title={plan.favourite ? 'No favourite any more' : 'Mark as favourite'}
          onclick={() => home.favour(plan)}
          ><Star size={14} fill={plan.favourite ? 'currentColor' : 'none'} aria-hidden="true" /></button
        >
        <span class="min-w-0 grow basis-40">
          <a
            class="block truncate font-semibold hover:underline"
            href={p('/plans/:id', { params: { id: plan.id } })}>{plan.title}</a
          >
          <span class="label"
            >{words.school(plan.school)} · changed {day(plan.changed)} · {versions(plan)}</span
          >
        </span>
        <button class="btn h-control-s" onclick={() => (adapting = plan)}
          ><Users size={14} aria-hidden="true" />Adapt to…</button
        >
      </li>
    {:else}
      <li>No plan yet.</li>
    {/each}
  </ul>
</section>

<AdaptDialog {home} plan={adapting} onclose={() => (adapting = null)} />
