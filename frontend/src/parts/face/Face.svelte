<script lang="ts">
  import type { Proportions } from '../../api/client';
  import Cast from './Cast.svelte';
  import { outlines, VIEW_BOX } from './chart';
  import Chosen from './Chosen.svelte';
  import Grades from './Grades.svelte';
  import type { Drawn, Pressed, Shift, Shown } from './inputs';
  import Measures from './Measures.svelte';
  import MoveStrokes from './MoveStrokes.svelte';
  import PaintZones from './PaintZones.svelte';
  import Places from './Places.svelte';
  import PointZones from './PointZones.svelte';
  import Portrait from './Portrait.svelte';
  import { USUAL } from './proportions';
  import Strokes from './Strokes.svelte';

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
  {#if shown.places}<Places {zones} of={shown.places} />{/if}
{/snippet}

<svg
  bind:this={drawing}
  viewBox={VIEW_BOX}
  class={classes}
  role={worked ? 'group' : 'img'}
  aria-label={label}
>
  {#if drawn.colours}
    <Portrait of={own} colours={drawn.colours} />
    {@render places()}
  {:else}
    <Cast of={own} under={places} fine={Boolean(shown.measures)} />
  {/if}
  {#if shown.measures}<Measures {zones} of={own} measures={shown.measures} />{/if}
  {#if shown.grade}<Grades {zones} of={own} grade={shown.grade} />{/if}
  {#if shown.chosen?.length}<Chosen {zones} of={own} chosen={shown.chosen} />{/if}
  {#if shown.strokes}
    <Strokes of={own} strokes={shown.strokes} chosen={shown.chosenStroke} {held} />
  {/if}
  {#if pressed && 'paint' in pressed}
    <PaintZones {zones} of={own} {...pressed.paint} />
  {:else if pressed && 'move' in pressed}
    <MoveStrokes
      of={own}
      strokes={shown.strokes ?? []}
      chosen={shown.chosenStroke}
      {...pressed.move}
      bind:held
    />
  {:else if pressed || drawn.colours}
    <PointZones {zones} onpoint={pressed?.point.onpoint} />
  {/if}
</svg>
