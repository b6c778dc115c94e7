<script lang="ts">
  import { api, ask, type AdaptedPlan, type PlanSummary } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import { Latest } from '../../parts/latest';
  import Modal from '../../parts/Modal.svelte';
  import { notices } from '../../parts/notices.svelte';
  import { navigate } from '../../router';
  import type { HomeState } from './home.svelte';

  interface Props {
    home: HomeState;
    /** The plan that is adapted; none while the dialog is closed. */
    plan: PlanSummary | null;
    onclose: () => void;
  }

  let { home, plan, onclose }: Props = $props();
  let to = $state('');
  let found = $state.raw<AdaptedPlan | null>(null);
  let busy = $state(false);
  const asked = new Latest();
  const others = $derived((home.sitters ?? []).filter((each) => each.id !== plan?.sitter_id));
  const other = $derived(others.find((each) => each.id === to));

  $effect(() => {
    if (!plan) choose('');
  });

  function choose(next: string) {
    asked.drop();
    [to, found, busy] = [next, null, false];
    if (next) void adapt(false);
  }

  async function adapt(save: boolean) {
    if (!plan || !to) return;
    busy = true;
    try {
      const path = { id: plan.id };
      const answer = await asked.of(
        ask(api.POST('/api/sequences/{id}/adapt', { params: { path }, body: { sitter: to, save } })),
      );
      if (!answer) return;
      found = answer;
      if (answer.id) {
        onclose();
        await navigate('/plans/:id', { params: { id: answer.id } });
      }
    } catch (error) {
      notices.refuse(error);
    }
    busy = false;
  }
</script>

<Modal bind:open={() => plan !== null, (open) => open || onclose()} title="Adapt “{plan?.title ?? ''}”">
  {#snippet about()}The same wishes and school on another face, planned anew from the whole shelf: what
    changes, and why.{/snippet}
  {#snippet actions()}
    <button class="btn btn-main" disabled={!found || busy} onclick={() => adapt(true)}
      >Save as a plan of {other?.nickname ?? '…'}</button
    >
  {/snippet}
  <Choice
    label="Sitter"
    value={to}
    options={[
      { id: '', words: 'Choose a sitter' },
      ...others.map((each) => ({ id: each.id, words: each.nickname, note: each.depth })),
    ]}
    onchoose={choose}
  />
  {#if found}
    <ul class="mt-3" aria-label="What changes">
      {#each found.changes as change (change.says)}
        <li class="border-t border-line py-1"><b>{change.says}</b> {change.why}</li>
      {:else}
        <li>Nothing: the same steps suit this face.</li>
      {/each}
    </ul>
  {:else if to}
    <p class="mt-3" role="status">Planning it on {other?.nickname}…</p>
  {/if}
</Modal>
