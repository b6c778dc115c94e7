<script lang="ts">
  import type { Aim, Proportions, Zone } from '../../api/client';
  import Face from '../../parts/face/Face.svelte';
  import type { Measure, Pressed } from '../../parts/face/inputs';

  interface Props {
    aim: Aim;
    proportions: Proportions;
    pointed: Zone | null;
    label: string;
    pressed: Pressed;
    drawing?: SVGSVGElement | undefined;
  }

  let { aim, proportions, pointed, label, pressed, drawing = $bindable() }: Props = $props();

  /** Grey without hue, darker the further off: in steps that an eye tells apart. */
  const GREYS = [
    { least: 0, words: 'below 1', grey: '#fafafa' },
    { least: 1, words: '1 to 2', grey: '#dedede' },
    { least: 2, words: '2 to 4', grey: '#b4b4b4' },
    { least: 4, words: '4 to 8', grey: '#7d7d7d' },
    { least: 8, words: '8 or more', grey: '#3c3c3c' },
  ];
  /** From here on the figure is written, and from here on in white. */
  const [FIGURE, DARK] = [2, 4];
  const measures = $derived(
    new Map<Zone, Measure>(
      aim.zones.map(({ zone, de, purpose }) => [
        zone,
        {
          grey: GREYS.findLast((step) => de >= step.least)?.grey ?? '#fafafa',
          dotted: Boolean(purpose),
          figure: !purpose && de >= FIGURE ? de.toFixed(de < 9.5 ? 1 : 0) : '',
          dark: de >= DARK,
        },
      ]),
    ),
  );
</script>

<Face
  class="min-h-0 w-full grow"
  bind:drawing
  {label}
  drawn={{ proportions }}
  shown={{ measures, chosen: pointed ? [pointed] : [] }}
  {pressed}
/>
<p class="flex flex-wrap gap-x-2 text-xs">
  <span class="label">ΔE00</span>
  {#each GREYS as step (step.least)}
    {@render key(step.words, step.grey, false)}
  {/each}
  {@render key('on purpose', '#fafafa', true)}
</p>

{#snippet key(words: string, grey: string, dotted: boolean)}
  <span class="flex items-center gap-1"
    ><svg width="11" height="11" aria-hidden="true"
      ><rect width="11" height="11" fill={grey} stroke="#777" />{#if dotted}<circle
          cx="4"
          cy="4"
          r="1"
          fill="#777"
        /><circle cx="8" cy="8" r="1" fill="#777" />{/if}</svg
    >{words}</span
  >
{/snippet}
