<script lang="ts">
  import type { Condition, Zone } from '../../api/client';
  import { asRead } from '../../parts/face/colours';
  import Face from '../../parts/face/Face.svelte';
  import { words } from '../../parts/vocabulary.svelte';
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

<Face
  label="{face.nickname}, bare skin as read"
  drawn={{ colours: asRead(face.zones), proportions: face.proportions }}
  shown={{ grade: worst }}
  pressed={{
    paint: {
      pointed,
      told,
      onpoint,
      ontouch: (zone) => read.painting.touch(zone),
      onlift: () => read.painting.lift(),
      onpaint: (zone) => read.painting.paint([zone]),
    },
  }}
/>
