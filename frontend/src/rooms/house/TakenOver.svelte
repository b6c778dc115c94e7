<script lang="ts">
  import type { Schemas } from '../../api/client';

  /** Factors on forecasts that were taken over from wear records, newest first; what is undone stays listed. */
  let { taken, onundo }: { taken: readonly Schemas['TakenOverWire'][]; onundo: (number: number) => unknown } =
    $props();
  const day = (moment: string) => new Date(moment).toLocaleDateString([], { dateStyle: 'medium' });
</script>

<ul>
  {#each taken as each (each.number)}
    <li class="flex flex-wrap items-baseline gap-x-2 gap-y-1 border-t border-line py-1">
      <b class={each.undone ? 'font-normal text-quiet' : ''}>{each.words}</b>
      <span class="min-w-56 flex-1 {each.undone ? 'text-quiet' : ''}">{each.says}</span>
      <span class="label"
        >{day(each.on)}{each.undone
          ? `, undone ${day(each.undone)}`
          : each.standing
            ? ''
            : ', replaced by a later one'}</span
      >
      {#if !each.undone}
        <button class="btn h-control px-2" aria-label="Undo: {each.words}" onclick={() => onundo(each.number)}
          >Undo</button
        >
      {/if}
    </li>
  {/each}
</ul>
