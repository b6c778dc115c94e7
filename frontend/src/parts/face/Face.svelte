<script lang="ts">
  import type { Proportions } from '../../api/client';
  import { outlines, VIEW_BOX } from './chart';
  import Chosen from './Chosen.svelte';
  import type { Drawn, Pressed, Shift, Shown } from './inputs';
  import PointZones from './PointZones.svelte';
  import Portrait from './Portrait.svelte';
  import { layers } from './layers';
  import { USUAL } from './proportions';

  /** A face, wherever one is: what is drawn, what is shown on it, and what can be pressed are its three inputs. */
  interface Props {
    label: string;
    drawn: Drawn;
    shown?: Shown;
    pressed?: Pressed;
    /** The drawing itself, for saving it. */
    drawing?: SVGSVGElement | undefined;
    class?: string;
  }

  let {
    label,
    drawn,
    shown = {},
    pressed,
    drawing = $bindable(),
    class: classes = 'h-full w-full',
  }: Props = $props();
  // Every answer brings its proportions anew; the paths are drawn again only where they differ.
  const stored = $derived(JSON.stringify(drawn.proportions ?? USUAL));
  const own = $derived(JSON.parse(stored) as Proportions);
  const zones = $derived(outlines(own));
  const worked = $derived(pressed && !('point' in pressed));
  /** The stroke that the pointer holds. */
  let held = $state<Shift | null>(null);
</script>

{#snippet places()}
  {#if shown.places}
    {@const of = shown.places}
    {#await layers.places() then Places}<Places {zones} {of} />{/await}
  {/if}
{/snippet}

<svg
  bind:this={drawing}
  viewBox={VIEW_BOX}
  class={classes}
  role={worked || shown.strokes ? 'group' : 'img'}
  aria-label={label}
>
  {#if drawn.colours}
    <Portrait of={own} colours={drawn.colours} />
    {@render places()}
  {:else}
    {#await layers.cast() then Cast}<Cast of={own} under={places} fine={Boolean(shown.measures)} />{/await}
  {/if}
  {#if shown.measures}
    {@const measures = shown.measures}
    {#await layers.measures() then Measures}<Measures {zones} of={own} {measures} />{/await}
  {/if}
  {#if shown.grade}
    {@const grade = shown.grade}
    {#await layers.grades() then Grades}<Grades {zones} of={own} {grade} />{/await}
  {/if}
  {#if shown.chosen?.length}<Chosen {zones} of={own} chosen={shown.chosen} />{/if}
  {#if shown.strokes}
    {@const strokes = shown.strokes}
    {#await layers.strokes() then Strokes}
      <Strokes of={own} {strokes} chosen={shown.chosenStroke} {held} />
    {/await}
  {/if}
  {#if pressed && 'paint' in pressed}
    {@const paint = pressed.paint}
    {#await layers.paint() then PaintZones}<PaintZones {zones} of={own} {...paint} />{/await}
  {:else if pressed && 'move' in pressed}
    {@const move = pressed.move}
    {#await layers.move() then MoveStrokes}
      <MoveStrokes of={own} strokes={shown.strokes ?? []} chosen={shown.chosenStroke} {...move} bind:held />
    {/await}
  {:else if pressed || drawn.colours}
    <PointZones {zones} onpoint={pressed?.point.onpoint} />
  {/if}
</svg>
