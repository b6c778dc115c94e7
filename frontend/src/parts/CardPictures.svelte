<script lang="ts">
  import Printer from '@lucide/svelte/icons/printer';
  import CalibratePrinter from './CalibratePrinter.svelte';
  import Camera from './Camera.svelte';
  import FileButton from './FileButton.svelte';
  import { saved } from './sending';
  import type { CardPictures } from './card-pictures.svelte';

  /** Where pictures of a card come in: by file, drop or camera; how each was read, or why it was not. */
  let { pictures }: { pictures: CardPictures } = $props();
  let over = $state(false);
  /** Samples that were not tried yet, as long as nothing of one's own is here. */
  const samples = $derived.by(() => {
    const offered = pictures.samples?.samples.filter((each) => each.size === pictures.size) ?? [];
    const rest = offered.filter(
      (each) => !pictures.all.some((taken) => each.address.endsWith(`/${taken.file.name}`)),
    );
    return offered.length - rest.length === pictures.all.length ? rest : [];
  });

  function dropped(event: DragEvent) {
    event.preventDefault();
    over = false;
    void pictures.take(event.dataTransfer?.files ?? []);
  }

  function said(found: { cells: { filled: boolean; because: string }[]; window: object | null }): string {
    const filled = found.cells.filter((each) => each.filled);
    const bad = filled.filter((each) => each.because);
    const said = [];
    if (filled.length) said.push(filled.length === 1 ? '1 film' : `${filled.length} films`);
    if (found.window) said.push('the window');
    return `read: ${said.join(' and ') || 'nothing on the card'}${bad.length ? `; ${bad.length} of them not wholly` : ''}`;
  }
</script>

<div
  role="group"
  aria-label="Where pictures come in"
  class="flex flex-wrap items-center gap-2 rounded-control border border-dashed p-2 {over
    ? 'border-accent bg-accent-soft'
    : 'border-line'}"
  ondragover={(event) => (event.preventDefault(), (over = true))}
  ondragleave={() => (over = false)}
  ondrop={dropped}
>
  <FileButton
    words="Choose pictures"
    label="Pictures of the card"
    accept="image/*,.heic,.heif"
    onfiles={(files) => void pictures.take(files)}
  />
  <Camera ontaken={(file) => void pictures.take([file], true)} />
  <span class="label">or drop them here. They are read, not kept.</span>
  <span class="ml-auto flex items-center gap-1"
    ><Printer size={15} aria-hidden="true" /><span class="label">Print the card</span>
    {#each [{ id: 'a4', words: 'A4' }, { id: 'letter', words: 'Letter' }] as paper (paper.id)}
      <a class="btn h-control-s px-2" href="/api/card?size={pictures.size}&paper={paper.id}" download
        ><span class="sr-only">Card on</span>{paper.words}</a
      >
    {/each}
  </span>
</div>
<ul aria-label="Pictures" aria-live="polite">
  {#each pictures.all as each (each.number)}
    <li class="flex items-start gap-2 py-0.5">
      <span class="min-w-0 grow"
        ><b>{each.refused ? '▲ ' : ''}{each.file.name}</b>
        {#if each.found}{said(each.found)}.{#each each.found.because as line (line)}
            <b>{line}</b>{/each}{:else if each.refused}{each.refused}{:else}is being read…{/if}</span
      >
      {#if each.own}<button
          class="btn h-control-xs px-1.5 text-xs"
          aria-label="Save {each.file.name}"
          onclick={() => saved(each.file, each.file.name)}>Save</button
        >{/if}
      <button
        class="btn h-control-xs px-1.5 text-xs"
        aria-label="Leave out {each.file.name}"
        onclick={() => pictures.leaveOut(each.number)}>Leave out</button
      >
    </li>
  {/each}
</ul>
{#if !pictures.all.length}
  <details class="mt-1">
    <summary class="cursor-pointer">How to get a good picture</summary>
    <ul class="list-disc pl-5">
      {#if pictures.size === 'kit'}
        <li>
          Two strips of tape as rails, above and below a cell; a little product on the black half, drawn over
          the white one with a straight edge, in one stroke. Let it dry.
        </li>
        <li>Clean tools for every product; nothing goes back into a pack.</li>
      {:else}
        <li>Cut the window out and hold the card flat against clean, dry skin, without pressing.</li>
        <li>A card that touched skin is for that sitter alone.</li>
      {/if}
      <li>Daylight by a window, no flash, and no shadow of yours on the card.</li>
      <li>The card fills the picture, all four corner marks in it, and it lies flat.</li>
      <li>Take two: they are put together, and tell whether they repeat.</li>
    </ul>
  </details>
{/if}
{#if samples.length}
  <p class="mt-1">
    <span class="label">No card yet? Try a sample, made by a simulated camera:</span>
    {#each samples as each (each.address)}
      <button class="underline" onclick={() => pictures.sample(each.address)}>{each.words}</button
      >{#if each !== samples.at(-1)}&nbsp;·&ensp;{/if}
    {/each}
  </p>
{/if}
{#if pictures.samples}<CalibratePrinter {pictures} />{/if}
