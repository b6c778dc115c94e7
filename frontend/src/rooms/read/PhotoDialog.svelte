<script lang="ts">
  import type { SkinPlace } from '../../api/client';
  import CardPictures from '../../parts/CardPictures.svelte';
  import Choice from '../../parts/Choice.svelte';
  import Modal from '../../parts/Modal.svelte';
  import PlanChangesList from '../../parts/PlanChangesList.svelte';
  import Swatch from '../../parts/Swatch.svelte';
  import { today } from '../../parts/today';
  import type { ReadState } from './read.svelte';
  import { SkinPhoto } from './skin-photo.svelte';

  interface Props {
    read: ReadState;
    place: SkinPlace;
    places: { id: SkinPlace; words: string }[];
    open: boolean;
  }

  /** The colour of skin from pictures of a card held against it: a place a window, several pictures a place. */
  let { read, place, places, open = $bindable() }: Props = $props();
  const photo = $derived(open ? new SkinPhoto(read.id, place) : null);
  const SIZES = [
    { id: 'skin' as const, words: 'the small card' },
    { id: 'kit' as const, words: 'the window of the kit’s card' },
  ];

  async function save() {
    if (!photo) return;
    if (await read.readings.save(photo.readings(today()))) open = false;
  }
</script>

<Modal bind:open title="Read skin from a photo" wide="56">
  {#snippet about()}
    Hold the window of a printed card against cheek, jaw and neck in turn, and take a picture of each, twice.
  {/snippet}
  {#snippet actions()}
    {#if photo?.places.length}
      {#if photo.changes}
        <button class="btn btn-main" disabled={!photo.ticked.length} onclick={save}
          >Save {photo.ticked.length === 1 ? '1 reading' : `${photo.ticked.length} readings`}</button
        >
      {:else}
        <button
          class="btn btn-main"
          disabled={!photo.ticked.length || photo.busy}
          onclick={() => photo?.look(today())}
          >See what {photo.ticked.length === 1 ? 'it changes' : 'they change'}</button
        >
      {/if}
    {/if}
  {/snippet}
  {#if photo}
    <div class="mb-2 flex items-center gap-2">
      <span class="label">Held:</span>
      <Choice
        label="Held"
        value={photo.pictures.size}
        options={SIZES}
        onchoose={(size) => photo.pictures.resize(size)}
      />
    </div>
    <CardPictures pictures={photo.pictures} />
    {#if photo.seen.length}
      <ul aria-label="What the window shows" class="mt-2">
        {#each photo.seen as each (each.number)}
          <li class="flex flex-wrap items-center gap-2 border-t border-line py-1">
            {#if each.crop}<img
                src={each.crop}
                alt="Window in {each.name}"
                class="h-9 rounded-control"
              />{/if}
            <Swatch hex={each.window.hex} size={22} />
            <span class="min-w-0 grow"
              >{each.name}: {each.window.lab.map((part) => part.toFixed(1)).join(' ')}<span class="label"
                >&ensp;± ΔE00 {each.window.sd.toFixed(1)}</span
              ></span
            >
            <Choice
              label="Place in {each.name}"
              value={photo.place(each.number)}
              options={places}
              onchoose={(next) => photo.set(each.number, next)}
            />
          </li>
        {/each}
      </ul>
      <h3 class="heading mt-2">By place</h3>
      <ul aria-label="By place" aria-live="polite">
        {#each photo.places as found (found.place)}
          <li class="border-t border-line py-1">
            <label class="flex items-start gap-2"
              ><input
                type="checkbox"
                class="mt-1 accent-[var(--accent)]"
                checked={!photo.left.includes(found.place)}
                onchange={(event) => photo.leave(found.place, !event.currentTarget.checked)}
              /><Swatch hex={found.hex} size={26} /><span
                ><b>{found.words}: {found.lab.map((part) => part.toFixed(1)).join(' ')}</b>
                <span class="label">± ΔE00 {found.sd.toFixed(1)}, {found.depth}</span>
                <span class="block">{found.says} {found.before}</span></span
              ></label
            >
            {#if found.far.length}<button class="btn mt-1 h-control-s" onclick={() => photo.again(found)}
                >Take {found.far.length === 1 ? 'it' : 'them'} again</button
              >{/if}
          </li>
        {/each}
      </ul>
      <p class="label mt-1">
        A picture is less sure than an instrument: of one day, a reader’s reading counts before it. Not a
        measurement of health.
      </p>
      {#if photo.changes}<PlanChangesList
          changes={photo.changes}
          none="No plan of this sitter would change: they have these colours already, or an instrument's reading of today counts before them."
        />{/if}
    {/if}
  {/if}
</Modal>
