<script lang="ts">
  import type { Place } from '../../api/client';
  import SeverityMark from './SeverityMark.svelte';

  /** Where a step could go, with what each place brings. */
  let { places, busy, ontake }: { places: Place[]; busy: boolean; ontake: (place: Place) => void } = $props();
</script>

<h3 class="heading mt-3">Places, the cheapest first</h3>
<ol aria-label="Places" class="mt-1 flex flex-col gap-1">
  {#each places as place (place.before ?? 'end')}
    <li class="flex items-start gap-2 border-t border-line py-1">
      <span class="mt-0.5 w-4"
        >{#if place.worst}<SeverityMark severity={place.worst} />{/if}</span
      >
      <span class="grow"
        >{#if place.refused}<b>Not possible.</b>
        {/if}{place.says}{#if place.usual}<b class="label ml-2">the usual place</b>{/if}</span
      >
      {#if !place.refused}
        <button class="btn" disabled={busy} onclick={() => ontake(place)}
          >Put it there<span class="sr-only">: {place.says}</span></button
        >
      {/if}
    </li>
  {/each}
</ol>
