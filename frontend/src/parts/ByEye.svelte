<script lang="ts" module>
  import type { Lab } from '../api/client';

  /** A colour as a person judged it, without an instrument. */
  export interface JudgedColour {
    lab: Lab;
    hex: string;
    labSd: number;
    says: string;
    source: 'eye' | 'stripe';
  }
</script>

<script lang="ts">
  import { api, ask, type EyeGrid } from '../api/client';
  import { Resource } from './resource.svelte';
  import { whenever } from './whenever.svelte';
  import LoadFailed from './LoadFailed.svelte';

  /** Skin judged by eye in two taps: depth by undertone, then the near neighbours of what was tapped. */
  interface Props {
    onjudged: (judged: JudgedColour) => void;
    /** What is held beside the screen. */
    of?: 'skin' | 'item';
  }

  let { onjudged, of = 'skin' }: Props = $props();
  let near = $state.raw<Lab | null>(null);
  let picked = $state('');
  const grid = new Resource(() => ask(api.POST('/api/by-eye', { body: { near } })));
  const shown = $derived(grid.value);
  whenever(
    () => near,
    () => void grid.load(),
  );

  function tap(cell: EyeGrid['rows'][number][number]) {
    const lab = cell.lab as Lab;
    picked = lab.join();
    onjudged({ lab, hex: cell.hex, labSd: shown?.lab_sd ?? 0, says: cell.words, source: 'eye' });
    if (!near) near = lab;
  }
</script>

<p class="mb-2">
  {near
    ? 'Second tap: which of these is nearest? The middle one is what you tapped; lighter above, warmer to the right.'
    : of === 'skin'
      ? 'First tap: hold the screen beside the jaw, in daylight, and tap the colour nearest to the skin.'
      : 'First tap: lay a thick dot on white paper beside the screen, in daylight, and tap the colour nearest to it.'}
</p>
{#if grid.failed}<LoadFailed of={grid} says="The colours to choose from did not come" />{/if}
<div class="flex flex-col gap-px" role="group" aria-label={near ? 'Near neighbours' : 'Depth by undertone'}>
  {#each shown?.rows ?? [] as row, at (near ? `near ${at}` : at)}
    <div class="flex items-stretch gap-px">
      <span class="label w-16 shrink-0 self-center">{shown?.row_words[at]}</span>
      {#each row as cell (cell.lab.join())}
        <button
          type="button"
          class="grow outline-offset-[-4px] {near ? 'h-24' : 'h-20'} {picked === cell.lab.join()
            ? 'ring-4 ring-accent ring-inset'
            : ''}"
          aria-label="{cell.words}, L* {cell.lab[0]}, a* {cell.lab[1]}, b* {cell.lab[2]}"
          aria-pressed={picked === cell.lab.join()}
          title={cell.words}
          onclick={() => tap(cell)}
        >
          <svg class="block h-full w-full" aria-hidden="true"
            ><rect width="100%" height="100%" fill={cell.hex} /></svg
          >
        </button>
      {/each}
    </div>
  {/each}
</div>
<p class="label mt-1">
  {shown?.sure ?? '…'} A reading by an instrument replaces it.
</p>
{#if near}
  <button type="button" class="btn mt-2" onclick={() => ((near = null), (picked = ''))}
    >Back to the whole grid</button
  >
{/if}
