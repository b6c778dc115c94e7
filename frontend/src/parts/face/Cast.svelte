<script lang="ts">
  import type { Snippet } from 'svelte';
  import type { Proportions } from '../../api/client';
  import { CLIPS } from './chart';
  import { drawn } from './proportions';

  interface Props {
    of: Proportions;
    /** What lies on the cast, under its features. */
    under: Snippet;
    /** Drawn in thin lines, where greys are to be compared. */
    fine?: boolean;
  }

  /** A pale face of a few lines, on which a place is found at a glance. */
  let { of, under, fine = false }: Props = $props();
  const LINES = [
    'M95 177 C103 165 132 163 142 178',
    'M84 153 C98 142 126 140 145 147',
    'M149 236 C154 242 160 242 160 242',
    'M131 266 C142 270 160 270 160 270',
  ];
</script>

{#each [...CLIPS].reverse() as [name, path] (name)}
  <path d={drawn(path, of)} fill="var(--well)" stroke="var(--quiet)" stroke-width={fine ? 1 : 4} />
{/each}
{@render under()}
<g fill="none" stroke="var(--quiet)" stroke-width={fine ? 1.5 : 5}>
  {#each [false, true] as mirrored (mirrored)}
    {#each LINES as line (line)}<path d={drawn(line, of, mirrored)} />{/each}
  {/each}
</g>
