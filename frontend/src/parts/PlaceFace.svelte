<script lang="ts">
  import type { Proportions, Zone } from '../api/client';
  import { CLIPS, SHAPES, VIEW_BOX } from './face';
  import { drawn, USUAL } from './proportions';

  /** A small face with a few zones filled, each in the colour it shows: where something goes, at a glance. */
  interface Props {
    colours: Partial<Record<Zone, string>>;
    zones: readonly Zone[];
    label: string;
    proportions?: Proportions;
  }

  let { colours, zones, label, proportions = USUAL }: Props = $props();
  const shapes = $derived(
    [...SHAPES]
      .sort((one, other) => Number(other.behind) - Number(one.behind))
      .filter((shape) => zones.includes(shape.zone)),
  );
  /** From so many places on, the outline of each would be all that one sees. */
  const MANY = 12;
  const LINES = [
    'M95 177 C103 165 132 163 142 178',
    'M84 153 C98 142 126 140 145 147',
    'M149 236 C154 242 160 242 160 242',
    'M131 266 C142 270 160 270 160 270',
  ];
</script>

<svg viewBox={VIEW_BOX} class="h-full w-auto shrink-0" role="img" aria-label={label}>
  {#each [...CLIPS].reverse() as [name, path] (name)}
    <path d={drawn(path, proportions)} fill="var(--well)" stroke="var(--quiet)" stroke-width="4" />
  {/each}
  {#each shapes as shape (shape.zone)}
    <path
      d={drawn(shape.path, proportions, shape.mirrored)}
      fill={colours[shape.zone] ?? 'var(--line)'}
      stroke="var(--ink)"
      stroke-width={zones.length > MANY ? 1 : 3.5}
    />
  {/each}
  <g fill="none" stroke="var(--quiet)" stroke-width="5">
    {#each [false, true] as mirrored (mirrored)}
      {#each LINES as line (line)}<path d={drawn(line, proportions, mirrored)} />{/each}
    {/each}
  </g>
</svg>
