<script lang="ts">
  import { api, ask, type Schemas } from '../../api/client';
  import { tried } from '../../parts/tried';

  /** One proposal: what was learnt, what it would change in three plans, and the button that takes it over. */
  let {
    proposal,
    busy,
    ontake,
  }: {
    proposal: Schemas['ProposalModel'];
    busy: boolean;
    ontake: (proposal: Schemas['ProposalModel']) => unknown;
  } = $props();
  let changes = $state.raw<Schemas['ConsequenceWire'][] | null>(null);
  let looking = $state(false);

  async function look() {
    looking = true;
    const found = await tried(
      ask(api.POST('/api/learnt/consequences', { body: { parameter: proposal.parameter } })),
    );
    looking = false;
    changes = found?.plans ?? null;
  }
</script>

<li class="border-t border-line py-2">
  <p>{proposal.says}</p>
  <div class="mt-1 flex flex-wrap gap-2">
    <button class="btn" disabled={looking || changes !== null} onclick={look}
      >{looking ? 'Planning…' : 'What would change'}</button
    >
    <button class="btn btn-main" disabled={busy} onclick={() => ontake(proposal)}
      >Use {proposal.to.toFixed(2)} times from now on</button
    >
  </div>
  {#if changes}
    <dl class="mt-2">
      {#each changes as each (each.plan_id)}
        <dt class="font-semibold">{each.title}{each.title === each.nickname ? '' : ` (${each.nickname})`}</dt>
        <dd class="mb-1">{each.says.join(' ')}</dd>
      {:else}
        <dt>No plan that is kept would change by it.</dt>
      {/each}
    </dl>
  {/if}
</li>
