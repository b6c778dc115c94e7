<script lang="ts">
  import type { Proportions, Zone } from '../../api/client';
  import type { Outline } from './chart';
  import { spot } from './spots';

  interface Props {
    zones: readonly Outline[];
    of: Proportions;
    grade: (zone: Zone) => number;
  }

  let { zones, of, grade }: Props = $props();
  const uid = $props.id();
  const HATCHES = [
    { grade: 1, gap: 14, turned: 45, crossed: false },
    { grade: 2, gap: 8, turned: 45, crossed: false },
    { grade: 3, gap: 8, turned: 0, crossed: true },
  ];
  const graded = $derived(
    zones
      .map((each) => ({ ...each, grade: grade(each.zone), at: spot(each.zone, of) }))
      .filter((each) => each.grade > 0),
  );
</script>

<defs>
  {#each HATCHES as hatch (hatch.grade)}
    <pattern
      id="{uid}-{hatch.grade}"
      width={hatch.gap}
      height={hatch.gap}
      patternUnits="userSpaceOnUse"
      patternTransform="rotate({hatch.turned})"
    >
      {#each hatch.crossed ? ['H', 'V'] : ['H'] as line (line)}
        <path d="M0 0{line}{hatch.gap}" stroke="#fff" stroke-width="2" stroke-opacity="0.6" />
        <path d="M0 0{line}{hatch.gap}" stroke="#111" stroke-width="0.9" stroke-opacity="0.8" />
      {/each}
    </pattern>
  {/each}
</defs>
{#each graded as each (each.zone)}
  <path d={each.path} fill="url(#{uid}-{each.grade})" />
{/each}
<g font-size="9" font-weight="700" text-anchor="middle">
  {#each graded as { zone, grade, at: [x, y] } (zone)}
    <circle cx={x} cy={y} r="5.6" fill="#fff" stroke="#111" stroke-width="0.8" />
    <text {x} y={y + 3.2} fill="#111">{grade}</text>
  {/each}
</g>
