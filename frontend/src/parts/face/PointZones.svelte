<script lang="ts">
  import type { Zone } from '../../api/client';
  import { words } from '../vocabulary.svelte';
  import type { Outline } from './chart';

  /** Zones that tell their name under the pointer. */
  interface Props {
    zones: readonly Outline[];
    onpoint?: ((zone: Zone | null) => void) | undefined;
  }

  let { zones, onpoint }: Props = $props();
</script>

<g fill="none" pointer-events="all" role="presentation" onpointerleave={() => onpoint?.(null)}>
  {#each zones as { zone, path } (zone)}
    <path d={path} role="presentation" onpointerenter={() => onpoint?.(zone)}>
      <title>{words.zone(zone)}</title>
    </path>
  {/each}
</g>
