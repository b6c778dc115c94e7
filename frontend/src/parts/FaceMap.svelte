<script lang="ts">
  import type { Snippet } from 'svelte';
  import type { Proportions, Zone } from '../api/client';
  import { FEATURES, HAIR, MOUTH, NECK, NOSE_SHADOWS, OUTLINE, SHAPES } from './face';
  import { drawn, placed, USUAL } from './proportions';
  import { words } from './vocabulary.svelte';

  interface Props {
    /** Colour of each zone, computed by the core. */
    colours: Record<Zone, string>;
    /** Zones to outline: those of the chosen step. */
    chosen?: readonly Zone[];
    label: string;
    /** How this face departs from the usual one. */
    proportions?: Proportions;
    onpoint?: (zone: Zone | null) => void;
    /** The drawing itself, for saving it. */
    drawing?: SVGSVGElement | undefined;
    /** Drawn over the face, in the same coordinates; takes the place of pointing. */
    over?: Snippet;
  }

  let {
    colours,
    chosen = [],
    label,
    proportions = USUAL,
    onpoint,
    drawing = $bindable(),
    over,
  }: Props = $props();
  const uid = $props.id();
  // Every answer brings its proportions anew; the paths are drawn again only where they differ.
  const kept = $derived(JSON.stringify(proportions));
  const own = $derived(JSON.parse(kept) as Proportions);
  const shapes = $derived(
    SHAPES.map((shape) => ({ ...shape, path: drawn(shape.path, own, shape.mirrored) })),
  );
  const behind = $derived(shapes.filter((shape) => shape.behind));
  const front = $derived(shapes.filter((shape) => !shape.behind));
  const picked = $derived(shapes.filter((shape) => chosen.includes(shape.zone)));
  const outline = $derived(drawn(OUTLINE, own));
  const neck = $derived(drawn(NECK, own));
  const half = (path: string, mirrored: boolean) => drawn(path, own, mirrored);
  const spot = (x: number, y: number) => placed(x, y, own);
</script>

<svg
  bind:this={drawing}
  viewBox="28 14 264 386"
  class="h-full w-full"
  role={over ? 'group' : 'img'}
  aria-label={label}
>
  <defs>
    <clipPath id="{uid}-face"><path d={outline} /></clipPath>
    <clipPath id="{uid}-neck"><path d={neck} /></clipPath>
    <filter id="{uid}-soft" x="-20%" y="-20%" width="140%" height="140%"
      ><feGaussianBlur stdDeviation="6" /></filter
    >
    <filter id="{uid}-shadow" x="-40%" y="-40%" width="180%" height="180%"
      ><feGaussianBlur stdDeviation="6" /></filter
    >
  </defs>

  <path d={drawn(HAIR, own)} fill="var(--line)" />
  <g>
    {#each behind.filter((shape) => shape.zone.startsWith('ear')) as shape (shape.zone)}
      <path d={shape.path} fill={colours[shape.zone]} />
    {/each}
  </g>
  <g clip-path="url(#{uid}-neck)">
    <path d={neck} fill={colours.neck} />
    <g filter="url(#{uid}-soft)">
      {#each behind.filter((shape) => !shape.zone.startsWith('ear')) as shape (shape.zone)}
        <path d={shape.path} fill={colours[shape.zone]} />
      {/each}
    </g>
    <ellipse
      cx="160"
      cy={spot(160, 318)[1]}
      rx="72"
      ry="34"
      fill="#000"
      opacity="0.16"
      filter="url(#{uid}-shadow)"
    />
  </g>
  <g clip-path="url(#{uid}-face)">
    <path d={outline} fill={colours.forehead_centre} />
    <g filter="url(#{uid}-soft)">
      {#each front as shape (shape.zone)}
        <path d={shape.path} fill={colours[shape.zone]} stroke={colours[shape.zone]} stroke-width="5" />
      {/each}
    </g>
    <g fill="#000" filter="url(#{uid}-shadow)" opacity="0.1">
      <path d={outline} fill="none" stroke="#000" stroke-width="12" />
      <ellipse cx={spot(160, 291)[0]} cy={spot(160, 291)[1]} rx="20" ry="5" />
      {#each NOSE_SHADOWS as shadow (shadow)}<path d={drawn(shadow, own)} />{/each}
      <ellipse cx={spot(160, 246)[0]} cy={spot(160, 246)[1]} rx="18" ry="4" />
    </g>
  </g>

  {#each [false, true] as mirrored (mirrored)}
    {@const [irisX, irisY] = spot(mirrored ? 320 - FEATURES.iris[0] : FEATURES.iris[0], FEATURES.iris[1])}
    <path d={half(FEATURES.brow, mirrored)} fill="#1c1a18" opacity="0.62" />
    <path d={half(FEATURES.eye, mirrored)} fill="#e9e7e4" />
    <circle cx={irisX} cy={irisY} r="7.4" fill="#4a4038" />
    <circle cx={irisX} cy={irisY} r="3.2" fill="#111" />
    <circle cx={irisX + 2.4} cy={irisY - 2.5} r="1.3" fill="#fff" />
    <g fill="none" stroke-linecap="round">
      <path d={half(FEATURES.lashes, mirrored)} stroke="#1c1a18" stroke-width="2" />
      <path d={half(FEATURES.crease, mirrored)} stroke="#000" stroke-opacity="0.22" stroke-width="1.2" />
      <path d={half(FEATURES.nostril, mirrored)} stroke="#000" stroke-opacity="0.4" stroke-width="2.2" />
      <path d={half(FEATURES.wing, mirrored)} stroke="#000" stroke-opacity="0.22" stroke-width="1.4" />
    </g>
  {/each}
  <path d={shapes.find((shape) => shape.zone === 'lips')?.path} fill="#8e2f3a" opacity="0.3" />
  <path d={drawn(MOUTH, own)} fill="none" stroke="#000" stroke-opacity="0.38" stroke-width="1.5" />

  <g fill="none" stroke="var(--accent)" stroke-width="1.6" stroke-dasharray="4 2.5">
    {#each picked as shape (shape.zone)}
      <path d={shape.path} stroke="#fff" stroke-width="3" stroke-dasharray="none" opacity="0.75" />
      <path d={shape.path} />
    {/each}
  </g>
  {#if over}
    {@render over()}
  {:else}
    <g fill="none" pointer-events="all" role="presentation" onpointerleave={() => onpoint?.(null)}>
      {#each [...behind, ...front] as shape (shape.zone)}
        <path d={shape.path} role="presentation" onpointerenter={() => onpoint?.(shape.zone)}>
          <title>{words.zone(shape.zone)}</title>
        </path>
      {/each}
    </g>
  {/if}
</svg>
