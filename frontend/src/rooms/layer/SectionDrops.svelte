<script lang="ts">
  import { COLUMN, type Drop } from './section';

  interface Props {
    drops: Drop[];
    refused: boolean;
    left: number;
    y: (um: number) => number;
  }

  /** Where a held layer would lie: a line on each of its zones, broken and crossed where it cannot. */
  let { drops, refused, left, y }: Props = $props();
</script>

<g pointer-events="none">
  {#each drops as drop (drop.zone)}
    <line
      x1={left + drop.x - 2}
      x2={left + drop.x + COLUMN + 1}
      y1={y(drop.um)}
      y2={y(drop.um)}
      stroke={refused ? 'var(--ink)' : 'var(--accent)'}
      stroke-width="3.5"
      stroke-dasharray={refused ? '3 2.5' : 'none'}
    />
    {#if refused}
      <path
        d="M{left + drop.x + 5} {y(drop.um) - 11} l7 7 m0 -7 l-7 7"
        stroke="var(--ink)"
        stroke-width="2"
      />
    {/if}
  {/each}
</g>
