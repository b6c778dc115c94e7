<script lang="ts">
  import CardPictures from '../../parts/CardPictures.svelte';
  import Modal from '../../parts/Modal.svelte';
  import NumberField from '../../parts/NumberField.svelte';
  import PlanChangesList from '../../parts/PlanChangesList.svelte';
  import FilmsTable from './FilmsTable.svelte';
  import { FromPhoto } from './from-photo.svelte';
  import type { ShelfState } from './shelf.svelte';

  /** Colour and cover of products from pictures of a printed card, and what they change, before anything is saved. */
  let { shelf, open = $bindable() }: { shelf: ShelfState; open: boolean } = $props();
  // Begun anew with every opening: nothing of a picture stays.
  const photo = $derived(open ? new FromPhoto(shelf) : null);
  const many = $derived(photo?.taken.length ?? 0);

  async function save() {
    if (await photo?.save()) open = false;
  }
</script>

<Modal bind:open title="Read from a photo" wide="56">
  {#snippet about()}
    Draw products over the cells of a printed card and take a picture of it: their colour and cover are
    measured instead of guessed.
  {/snippet}
  {#snippet actions()}
    {#if photo?.films.length}
      {#if photo.changes}
        <button class="btn btn-main" disabled={shelf.busy} onclick={save}
          >Save {many === 1 ? '1 colour' : `${many} colours`}</button
        >
      {:else}
        <button
          class="btn btn-main"
          disabled={photo.busy || !many || photo.wanting !== ''}
          onclick={() => photo?.look()}>See what {many === 1 ? 'it changes' : 'they change'}</button
        >
      {/if}
      {#if photo.wanting}<span role="status"><b>▲</b> {photo.wanting}</span>{:else if !many}<span
          class="label">Tick what is to go onto the shelf.</span
        >{/if}
      {#if photo.busy}<span role="status" class="label">Working through the plans…</span>{/if}
    {/if}
  {/snippet}
  {#if photo}
    <CardPictures pictures={photo.pictures} />
    {#if photo.films.length}
      <div class="mt-3 flex flex-wrap items-end gap-3">
        <NumberField
          label="Dry film, µm"
          value={photo.film}
          of="drawdown_um"
          onset={(value) => ((photo.filmUm = value), void photo.pool())}
        />
        <p class="label min-w-0 grow basis-64">
          Half the thickness of the tape, as a rule. The colour of an opaque film does not hang on it; cover
          does.
        </p>
      </div>
      <FilmsTable {photo} />
      {#if photo.changes}<PlanChangesList
          changes={photo.changes}
          none="No plan lays these items: what is planned from now on goes by the new colours."
          bind:into={photo.into}
        />{/if}
    {/if}
  {/if}
</Modal>
