<script lang="ts">
  import type { Outline } from './chart';
  import type { Shown } from './inputs';

  let { zones, of }: { zones: readonly Outline[]; of: NonNullable<Shown['places']> } = $props();
  /** From so many places on, the outline of each would be all that one sees. */
  const MANY = 12;
</script>

{#each zones.filter((each) => of.zones.includes(each.zone)) as { zone, path } (zone)}
  <path
    d={path}
    fill={of.colours[zone] ?? 'var(--line)'}
    stroke="var(--ink)"
    stroke-width={of.zones.length > MANY ? 1 : 3.5}
  />
{/each}
