<script lang="ts">
  import type { Snippet } from 'svelte';
  import type { Proportions, Zone } from '../api/client';
  import { CLIPS, groups, SHAPES, VIEW_BOX, VIEW_HEIGHT, VIEW_WIDTH, VIEW_X, VIEW_Y } from './face';
  import { drawn, USUAL } from './proportions';
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
  /** From so many zones on, face and neck are outlined as a whole. */
  const NEARLY_ALL = 22;
  const FRAME = { x: VIEW_X, y: VIEW_Y, width: VIEW_WIDTH, height: VIEW_HEIGHT };
  // Every answer brings its proportions anew; the paths are drawn again only where they differ.
  const stored = $derived(JSON.stringify(proportions));
  const own = $derived(JSON.parse(stored) as Proportions);
  const shapes = $derived(
    SHAPES.map((shape) => ({ ...shape, path: drawn(shape.path, own, shape.mirrored) })),
  );
  const behind = $derived(shapes.filter((shape) => shape.behind));
  const front = $derived(shapes.filter((shape) => !shape.behind));
  const picked = $derived(
    chosen.length > NEARLY_ALL
      ? CLIPS.map(([name, path]) => ({ zone: name, path: drawn(path, own) }))
      : shapes.filter((shape) => chosen.includes(shape.zone)),
  );
  const painted = $derived(groups(own));
  const blurs = $derived([...new Set(painted.flatMap((group) => group.blur ?? []))]);
</script>

<svg
  bind:this={drawing}
  viewBox={VIEW_BOX}
  class="h-full w-full"
  role={over ? 'group' : 'img'}
  aria-label={label}
>
  <defs>
    {#each CLIPS as [name, path] (name)}
      <clipPath id="{uid}-{name}"><path d={drawn(path, own)} /></clipPath>
    {/each}
    {#each blurs as blur (blur)}
      <filter id="{uid}-blur-{blur}" x="-40%" y="-40%" width="180%" height="180%"
        ><feGaussianBlur stdDeviation={blur} /></filter
      >
    {/each}
    <linearGradient id="{uid}-foot" x1="0" y1="0" x2="0" y2="1">
      <stop offset="0.9" stop-color="#fff" /><stop offset="1" stop-color="#000" />
    </linearGradient>
    <mask id="{uid}-fade" maskUnits="userSpaceOnUse" {...FRAME}>
      <rect {...FRAME} fill="url(#{uid}-foot)" />
    </mask>
  </defs>

  {#each painted as group, place (place)}
    <g mask={group.fade ? `url(#${uid}-fade)` : undefined}>
      <g clip-path={group.clip && `url(#${uid}-${group.clip})`} opacity={group.opacity}>
        <g filter={group.blur ? `url(#${uid}-blur-${group.blur})` : undefined} stroke-linecap="round">
          {#each group.marks as mark, at (at)}
            {@const colour = mark.zone && colours[mark.zone]}
            <path
              d={mark.path}
              fill={colour ?? mark.fill}
              stroke={colour && mark.width ? colour : mark.stroke}
              stroke-width={mark.width}
              stroke-opacity={mark.strokeOpacity}
              stroke-dasharray={mark.dash}
              opacity={mark.opacity}
              fill-rule={mark.evenodd ? 'evenodd' : undefined}
            />
          {/each}
        </g>
      </g>
    </g>
  {/each}

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
