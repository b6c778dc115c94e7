<script lang="ts">
  import type { Proportions } from '../../api/client';
  import { CLIPS, groups, VIEW_HEIGHT, VIEW_WIDTH, VIEW_X, VIEW_Y } from './chart';
  import type { Colours } from './colours';
  import { drawn } from './proportions';

  /** The whole head, each zone in its colour. */
  let { of, colours }: { of: Proportions; colours: Colours } = $props();
  const uid = $props.id();
  const FRAME = { x: VIEW_X, y: VIEW_Y, width: VIEW_WIDTH, height: VIEW_HEIGHT };
  const painted = $derived(groups(of));
  const blurs = $derived([...new Set(painted.flatMap((group) => group.blur ?? []))]);
</script>

<defs>
  {#each CLIPS as [name, path] (name)}
    <clipPath id="{uid}-{name}"><path d={drawn(path, of)} /></clipPath>
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
