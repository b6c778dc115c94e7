<script lang="ts">
  import type { Aim, Proportions, Zone } from '../../api/client';
  import { OUTLINE, SHAPES, VIEW_BOX } from '../../parts/face';
  import { drawn, placed } from '../../parts/proportions';
  import { words } from '../../parts/vocabulary.svelte';

  interface Props {
    aim: Aim;
    proportions: Proportions;
    pointed: Zone | null;
    label: string;
    onpoint: (zone: Zone | null) => void;
    drawing?: SVGSVGElement | undefined;
  }

  let { aim, proportions, pointed, label, onpoint, drawing = $bindable() }: Props = $props();
  const uid = $props.id();
  const found = $derived(new Map(aim.zones.map((zone) => [zone.zone, zone])));
  const ordered = $derived(
    [...SHAPES.filter((shape) => shape.behind), ...SHAPES.filter((shape) => !shape.behind)].flatMap(
      (shape) => {
        const miss = found.get(shape.zone);
        const [x, y] = words.all?.anchors[shape.zone] ?? [160, 200];
        return miss
          ? [
              {
                ...shape,
                path: drawn(shape.path, proportions, shape.mirrored),
                miss,
                spot: placed(x ?? 160, y ?? 200, proportions),
              },
            ]
          : [];
      },
    ),
  );

  /** Grey without hue, darker the further off: in steps that an eye tells apart. */
  const GREYS = [
    { least: 0, words: 'below 1', grey: '#fafafa' },
    { least: 1, words: '1 to 2', grey: '#dedede' },
    { least: 2, words: '2 to 4', grey: '#b4b4b4' },
    { least: 4, words: '4 to 8', grey: '#7d7d7d' },
    { least: 8, words: '8 or more', grey: '#3c3c3c' },
  ];

  function grey(de: number): string {
    return GREYS.findLast((step) => de >= step.least)?.grey ?? '#fafafa';
  }
</script>

<svg viewBox={VIEW_BOX} class="min-h-0 w-full grow" role="img" aria-label={label} bind:this={drawing}>
  <defs>
    <pattern id="{uid}-purpose" width="6" height="6" patternUnits="userSpaceOnUse">
      <rect width="6" height="6" fill="#fafafa" />
      <circle cx="2" cy="2" r="1" fill="#777" />
    </pattern>
  </defs>
  <path d={drawn(OUTLINE, proportions)} fill="#fafafa" stroke="#777" />
  <g role="presentation" onpointerleave={() => onpoint(null)}>
    {#each ordered as shape (shape.zone)}
      <path
        d={shape.path}
        fill={shape.miss.purpose ? `url(#${uid}-purpose)` : grey(shape.miss.de)}
        stroke={pointed === shape.zone ? 'var(--accent)' : '#777'}
        stroke-width={pointed === shape.zone ? 2.6 : 0.6}
        role="presentation"
        onpointerenter={() => onpoint(shape.zone)}
      />
    {/each}
  </g>
  <g font-size="12" text-anchor="middle" class="pointer-events-none">
    {#each ordered.filter((shape) => !shape.miss.purpose && shape.miss.de >= 2) as shape (shape.zone)}
      <text
        x={shape.spot[0]}
        y={shape.spot[1] + 4}
        fill={shape.miss.de >= 4 ? '#fff' : '#111'}
        font-weight="700">{shape.miss.de.toFixed(shape.miss.de < 9.5 ? 1 : 0)}</text
      >
    {/each}
  </g>
</svg>
<p class="flex flex-wrap gap-x-2 text-xs">
  <span class="label">ΔE00</span>
  {#each GREYS as step (step.least)}
    <span class="flex items-center gap-1"
      ><svg width="11" height="11" aria-hidden="true"
        ><rect width="11" height="11" fill={step.grey} stroke="#777" /></svg
      >{step.words}</span
    >
  {/each}
  <span class="flex items-center gap-1"
    ><svg width="11" height="11" aria-hidden="true"
      ><rect width="11" height="11" fill="url(#{uid}-purpose)" stroke="#777" /></svg
    >on purpose</span
  >
</p>
