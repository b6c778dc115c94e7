<script lang="ts">
  import { onMount } from 'svelte';
  import Plus from '@lucide/svelte/icons/plus';
  import { searchParams } from 'sv-router';
  import RoomBar from '../../parts/RoomBar.svelte';
  import { shortcuts } from '../../parts/shortcuts.svelte';
  import { isActive, navigate, p, route } from '../../router';
  import AlignedSections from './AlignedSections.svelte';
  import CandidateCard from './CandidateCard.svelte';
  import FiguresTable from './FiguresTable.svelte';
  import HalfFaces from './HalfFaces.svelte';
  import TrialDialog from './TrialDialog.svelte';
  import { LETTERS, MOST, WeighState } from './weigh.svelte';
  import Awaited from '../../parts/Awaited.svelte';
  import { whenever } from '../../parts/whenever.svelte';

  const id = $derived(route.params.id ?? '');
  const weigh = $derived(new WeighState(id, showInAddress, asked));
  const candidates = $derived(weigh.candidates);
  let trying = $state(false);

  whenever(
    () => weigh.opening,
    (opening) => void opening.load(),
  );

  onMount(() =>
    shortcuts.declare([
      { keys: 'a', does: 'Add a candidate', run: () => void (weigh.specs.length < MOST && weigh.add()) },
      { keys: 'l', does: 'Back to the Layer room', run: () => void back() },
    ]),
  );

  /** Let the address of the room say what stands side by side, unless the room was left meanwhile. */
  function showInAddress(candidates: string[]) {
    if (!isActive('/weigh/:id', { id })) return;
    LETTERS.forEach((letter, place) => {
      const text = candidates[place];
      const name = letter.toLowerCase();
      if (text === undefined) searchParams.delete(name, undefined, { replace: true });
      else searchParams.set(name, text, { replace: true });
    });
  }

  /** The candidates that the address of the room tells. */
  function asked(): string[] {
    const query = new URLSearchParams(window.location.search);
    return LETTERS.map((letter) => query.get(letter.toLowerCase())).filter((text) => text !== null);
  }

  async function back() {
    await navigate('/plans/:id', { params: { id } });
  }

  async function take(place: number) {
    if (await weigh.take(place)) await back();
  }
</script>

<svelte:head
  ><title>{candidates[0] ? `${candidates[0].plan.nickname} – ` : ''}Weigh – Nabrel</title></svelte:head
>

<div class="flex h-full flex-col">
  <RoomBar room="weigh">
    <h1 class="max-w-64 truncate font-semibold">
      {candidates[0] ? candidates[0].plan.title || candidates[0].plan.nickname : 'Weigh'}
    </h1>
    <button
      class="btn"
      title="Add a candidate (a)"
      disabled={weigh.busy || !weigh.found || weigh.specs.length >= MOST}
      onclick={() => weigh.add()}><Plus size={15} aria-hidden="true" />Candidate</button
    >
    <button class="btn" disabled={weigh.busy || candidates.length < 2} onclick={() => (trying = true)}
      >Try two in wear…</button
    >
    <span class="label" role="status">{weigh.busy ? 'Weighing…' : ''}</span>
  </RoomBar>
  {#if weigh.opening.failed || !weigh.found}
    <Awaited of={weigh.opening} waits="Planning the candidates…" says="This plan could not be weighed" room>
      {#snippet leads()}<a class="btn" href={p('/')}>To the sitters</a>{/snippet}
    </Awaited>
  {:else}
    <main class="printed flex min-h-0 grow flex-col gap-2 overflow-auto p-2" aria-busy={weigh.busy}>
      <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
      <div class="panel shrink-0 overflow-x-auto p-2.5" role="group" aria-label="Candidates" tabindex="0">
        <div style:min-width="{16 + 13 * candidates.length}rem">
          <div
            class="mb-2 grid"
            style:grid-template-columns="16rem repeat({candidates.length}, minmax(0, 1fr))"
          >
            <section class="flex flex-col gap-2 pr-2.5" aria-label="What is recommended">
              <p>
                {#if weigh.found.as_good.length > 1}
                  <b>{weigh.found.as_good.map((place) => LETTERS[place]).join(' and ')}</b> suit this face equally
                  well: nothing that counts tells them apart.
                {:else}
                  Of these, <b>{LETTERS[weigh.found.recommended]}. {weigh.suits?.words}</b> suits this face
                  best:
                  {weigh.found.says}
                {/if}
              </p>
              {#if weigh.missing}
                {@const best = weigh.missing}
                <p>Of all six schools, <b>{best.words}</b> would suit it best: {best.says}</p>
                {#if candidates.length < MOST}
                  <button
                    class="btn no-print self-start"
                    disabled={weigh.busy}
                    onclick={() => weigh.add(best.school)}>Weigh it too</button
                  >
                {/if}
              {/if}
            </section>
            {#each candidates as each, place (place)}
              <CandidateCard {weigh} {each} {place} ontake={() => void take(place)} />
            {/each}
          </div>
          <FiguresTable found={weigh.found} />
        </div>
      </div>
      <AlignedSections candidates={weigh.candidates} bind:pointed={weigh.pointed} />
      <HalfFaces {weigh} />
      <p class="label px-1">
        A planning aid, not a measurement of a person. Local hygiene codes and licensed practice come first.
      </p>
    </main>
  {/if}
</div>

{#if trying}<TrialDialog {weigh} bind:open={trying} />{/if}
