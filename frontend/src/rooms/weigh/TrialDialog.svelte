<script lang="ts">
  import { api, ask, type Schemas } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import Modal from '../../parts/Modal.svelte';
  import { tried } from '../../parts/tried';
  import { navigate } from '../../router';
  import { LETTERS, type WeighState } from './weigh.svelte';

  /** Set up a trial: which two of the candidates, and whether on the halves of one face or on two days. */
  let { weigh, open = $bindable() }: { weigh: WeighState; open: boolean } = $props();
  let first = $state('0');
  let second = $state('1');
  let how = $state<Schemas['WearTrialBody']['how']>('halves');
  let busy = $state(false);
  const options = $derived(
    weigh.candidates.map((each, place) => ({ id: String(place), words: `${LETTERS[place]}. ${each.words}` })),
  );
  const HOWS: { id: Schemas['WearTrialBody']['how']; words: string; about: string }[] = [
    {
      id: 'halves',
      words: 'Two halves of one face',
      about: 'The same skin on the same day: the fairest comparison.',
    },
    { id: 'days', words: 'Two days', about: 'The whole face each time; take days of the same kind.' },
  ];

  async function begin() {
    const candidates = [weigh.specs[Number(first)]!, weigh.specs[Number(second)]!];
    busy = true;
    const made = await tried(
      ask(
        api.POST('/api/sequences/{id}/trials', {
          params: { path: { id: weigh.id } },
          body: { candidates, how },
        }),
      ),
    );
    busy = false;
    if (made) await navigate('/trials/:id', { params: { id: made.trial_id } });
  }
</script>

<Modal bind:open title="Try two against each other" wide="34">
  {#snippet about()}
    Both are kept beside the plan. Nabrel says what to look at and when, and which did better once enough was
    seen.
  {/snippet}
  {#snippet actions()}
    <button class="btn btn-main" disabled={busy || first === second} onclick={() => void begin()}
      >Set up the trial</button
    >
  {/snippet}
  <div class="flex flex-col gap-3">
    <div class="flex flex-wrap items-center gap-2">
      <Choice label="First" value={first} {options} onchoose={(id) => (first = id)} />
      <span>against</span>
      <Choice label="Second" value={second} {options} onchoose={(id) => (second = id)} />
    </div>
    {#if first === second}<p role="status">Choose two that differ.</p>{/if}
    <fieldset class="flex flex-col gap-1">
      <legend class="label">Worn on</legend>
      {#each HOWS as each (each.id)}
        <label class="flex items-baseline gap-2"
          ><input type="radio" class="accent-[var(--accent)]" value={each.id} bind:group={how} /><span
            ><b>{each.words}</b> <span class="label">{each.about}</span></span
          ></label
        >
      {/each}
    </fieldset>
  </div>
</Modal>
