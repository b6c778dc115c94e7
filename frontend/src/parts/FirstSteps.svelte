<script lang="ts">
  import { api, ask } from '../api/client';
  import { navigate, p } from '../router';
  import { firstSteps } from './first-steps.svelte';
  import { inHand } from './in-hand.svelte';
  import { tried } from './tried';

  /** What to do here on the way to a first plan, and what comes next. */
  let { room }: { room: string | undefined } = $props();
  const STEPS = [
    {
      room: 'sitters',
      words: 'Sitter',
      does: 'Choose “New sitter”: a nickname, and the skin’s colour by eye. Ask for consent first.',
    },
    {
      room: 'read',
      words: 'What you see',
      does: 'Choose a condition, a severity, and paint it where you see it. Three or four are enough to start.',
    },
    {
      room: 'shelf',
      words: 'What you own',
      does: 'Add what you own with “Quick add” or “Paste a list”. An empty shelf is fine: the plan then uses a generic kit.',
    },
    {
      room: 'layer',
      words: 'Plan',
      does: 'Walk through the steps with the arrow keys, then print the sheet. Everything can be changed in place.',
    },
  ] as const;
  const at = $derived(STEPS.findIndex((step) => step.room === room));
  const step = $derived(STEPS[at]);

  async function next() {
    const sitter = inHand.sitter;
    if (room === 'sitters' && sitter) await navigate('/read/:id', { params: { id: sitter.id } });
    else if (room === 'read') await navigate('/shelf');
    else if (room === 'shelf' && sitter) await plan(sitter.id);
    else if (room === 'layer') firstSteps.leave();
    else await navigate('/');
  }

  async function plan(id: string) {
    const made = await tried(
      ask(api.POST('/api/sitters/{id}/sequences', { params: { path: { id } }, body: {} })),
    );
    if (!made) return;
    await navigate('/plans/:id', { params: { id: made.id } });
  }
</script>

<section
  aria-label="Your first plan"
  class="flex flex-wrap items-center gap-x-4 gap-y-1 border-t border-line bg-accent-soft px-3 py-1.5"
>
  <ol class="flex gap-3">
    {#each STEPS as each, place (each.room)}
      <li
        aria-current={place === at ? 'step' : undefined}
        class={place === at ? 'font-bold underline underline-offset-4' : place < at ? '' : 'text-quiet'}
      >
        {place + 1}
        {each.words}
      </li>
    {/each}
  </ol>
  <p class="min-w-64 grow basis-0">{step?.does ?? 'Go on where you left off.'}</p>
  {#if room === 'layer' && inHand.plan}
    <a class="btn h-control" href={p('/sheet/:id', { params: { id: inHand.plan.id } })}>Sheet</a>
  {/if}
  {#if room !== 'sitters' || inHand.sitter}
    <button class="btn h-control font-semibold" onclick={next}
      >{room === 'layer' ? 'Done' : room === 'shelf' && inHand.sitter ? 'Plan the base' : 'Next'}</button
    >
  {/if}
  <button class="btn h-control" onclick={() => firstSteps.leave()}>Leave the path</button>
</section>
