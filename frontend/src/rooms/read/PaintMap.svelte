<script lang="ts">
  import type { Condition, Zone } from '../../api/client';
  import { words } from '../../parts/vocabulary.svelte';
  import ZonePainter from '../../parts/ZonePainter.svelte';
  import type { ReadState } from './read.svelte';

  interface Props {
    read: ReadState;
    /** The conditions that are shown; all others stay out of sight. */
    shown: readonly Condition[];
    pointed: Zone | null;
    onpoint: (zone: Zone | null) => void;
  }

  let { read, shown, pointed, onpoint }: Props = $props();
  const face = $derived(read.face!);
  const colours = $derived(
    Object.fromEntries(face.zones.map((zone) => [zone.zone, zone.hex])) as Record<Zone, string>,
  );

  function worst(zone: Zone): number {
    if (read.painting.painted.includes(zone))
      return read.painting.brush.erase ? 0 : read.painting.brush.severity;
    return Math.max(0, ...shown.map((condition) => read.painting.severity(zone, condition)));
  }

  function told(zone: Zone): string {
    const found = shown
      .map((condition) => [condition, read.painting.severity(zone, condition)] as const)
      .filter(([, severity]) => severity > 0)
      .map(([condition, severity]) => `${words.condition(condition)} ${severity}`);
    return `${words.zone(zone)}: ${found.join(', ') || 'nothing shown here'}`;
  }
</script>

<ZonePainter
  {colours}
  proportions={face.proportions}
  label="{face.nickname}, bare skin as read"
  grade={worst}
  {told}
  {pointed}
  {onpoint}
  ontouch={(zone) => read.painting.touch(zone)}
  onlift={() => read.painting.lift()}
  onpaint={(zone) => read.painting.paint([zone])}
/>
