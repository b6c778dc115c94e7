<script lang="ts">
  import type { Proportions, Zone } from '../../api/client';
  import { CLIPS, type Outline } from './chart';
  import { drawn } from './proportions';

  let { zones, of, chosen }: { zones: readonly Outline[]; of: Proportions; chosen: readonly Zone[] } =
    $props();
  /** From so many zones on, face and neck are outlined as a whole. */
  const NEARLY_ALL = 22;
  const picked = $derived(
    chosen.length > NEARLY_ALL
      ? CLIPS.map(([name, path]) => ({ zone: name, path: drawn(path, of) }))
      : zones.filter((each) => chosen.includes(each.zone)),
  );
</script>

<g fill="none" stroke="var(--accent)" stroke-width="1.6" stroke-dasharray="4 2.5">
  {#each picked as { zone, path } (zone)}
    <path d={path} stroke="#fff" stroke-width="3" stroke-dasharray="none" opacity="0.75" />
    <path d={path} />
  {/each}
</g>
