<script lang="ts">
  import type { Proportions, Zone } from '../../api/client';
  import type { Outline } from './chart';
  import type { Measure } from './inputs';
  import { spot } from './spots';

  interface Props {
    zones: readonly Outline[];
    of: Proportions;
    measures: ReadonlyMap<Zone, Measure>;
  }

  let { zones, of, measures }: Props = $props();
  const uid = $props.id();
  const measured = $derived(
    zones.flatMap((each) => {
      const measure = measures.get(each.zone);
      return measure ? [{ ...each, ...measure, at: spot(each.zone, of) }] : [];
    }),
  );
</script>

<defs>
  <pattern id="{uid}-dots" width="6" height="6" patternUnits="userSpaceOnUse">
    <rect width="6" height="6" fill="#fafafa" />
    <circle cx="2" cy="2" r="1" fill="#777" />
  </pattern>
</defs>
{#each measured as each (each.zone)}
  <path d={each.path} fill={each.dotted ? `url(#${uid}-dots)` : each.grey} stroke="#777" stroke-width="0.6" />
{/each}
<g font-size="12" font-weight="700" text-anchor="middle">
  {#each measured.filter((each) => each.figure) as each (each.zone)}
    <text x={each.at[0]} y={each.at[1] + 4} fill={each.dark ? '#fff' : '#111'}>{each.figure}</text>
  {/each}
</g>
