<script lang="ts">
  import type { Zone } from '../../api/client';
  import CellStory from './CellStory.svelte';
  import { Cut, type Given } from './cut.svelte';
  import { walked, type Cell } from './section';
  import SectionControls from './SectionControls.svelte';
  import SectionDrawing from './SectionDrawing.svelte';
  import SectionKey from './SectionKey.svelte';

  interface Props extends Given {
    /** The step whose layer is marked, where it is not the last one shown. */
    chosen?: number;
    onchoose: (step: number) => void;
    onpoint: (zone: Zone | null) => void;
    label?: string;
    /** The drawing alone, as one of several. */
    quiet?: boolean;
    /** With the key but without controls, for showing. */
    spare?: boolean;
    /** Zones picked, and what to do when one is picked by its name. */
    picked?: readonly Zone[];
    onpick?: (zone: Zone) => void;
  }

  const props: Props = $props();
  const uid = $props.id();

  let drawing = $state<SVGSVGElement>();
  const cut = new Cut(() => props);
  const { plan, onpoint, moving, quiet = false, spare = false, named = true } = $derived(props);
  const { cells, columns, frame, focus } = $derived(cut);
  const storied = $derived(quiet || moving?.step ? null : focus);
  const column = $derived(storied ? columns[storied.column] : undefined);

  function point(cell: Cell | null) {
    cut.cursor = cell && { zone: cell.column, step: cell.step };
    if (cell) onpoint(cell.zone);
  }

  function leave() {
    cut.cursor = null;
    onpoint(null);
  }

  function walk(event: KeyboardEvent) {
    const { cursor } = cut;
    const zone = cursor && columns[cursor.zone]?.zone;
    const next = walked(cursor, event.key, columns, cells);
    if (next) {
      cut.cursor = next;
      onpoint(columns[next.zone]?.zone ?? null);
    } else if (event.key === 'Enter' && cursor) props.onchoose(cursor.step);
    else if (event.key === ' ' && zone && props.onpick) props.onpick(zone);
    else return;
    event.preventDefault();
    event.stopPropagation();
  }
</script>

<figure class="flex min-h-0 flex-col">
  <!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
  <div
    class="relative overflow-x-auto"
    role="group"
    aria-label={props.label ?? 'Section through the base'}
    aria-describedby={quiet ? undefined : `${uid}-told`}
    tabindex="0"
    onkeydown={walk}
    onblur={leave}
  >
    <SectionDrawing
      {plan}
      {columns}
      {cells}
      ghosts={cut.ghosts}
      {frame}
      at={props.at}
      chosen={props.chosen}
      {focus}
      pointed={props.pointed}
      {named}
      stated={!quiet}
      beyond={cut.scale !== 'ceilings'}
      {moving}
      picked={props.picked ?? []}
      bind:drawing
      onpoint={point}
      onzone={onpoint}
      onleave={leave}
      onchoose={props.onchoose}
      onpick={props.onpick}
    />
    {#if storied && column}
      <CellStory
        {plan}
        cell={storied}
        {column}
        {frame}
        stack={cells.filter((each) => each.column === storied.column)}
      />
    {/if}
  </div>
  {#if !quiet && !spare}
    <SectionControls {cut} {drawing} of={plan.nickname} />
  {/if}
  {#if !quiet}
    <figcaption
      id="{uid}-told"
      class="mt-1 flex flex-wrap items-center gap-x-4 gap-y-1 {spare ? 'text-sm' : 'text-xs'}"
      aria-live="polite"
    >
      <!-- Two lines always, so that what is told moves nothing; the story beside the column tells the rest. -->
      <span class="line-clamp-2 min-h-[2lh] grow basis-full">{cut.told}</span>
      <SectionKey />
    </figcaption>
  {/if}
</figure>
