<script lang="ts">
  import type { Zone } from '../../api/client';
  import { words } from '../../parts/vocabulary.svelte';
  import { COLUMN, NAMES, type Column, type Frame } from './section';

  interface Props {
    columns: Column[];
    frame: Frame;
    pointed: Zone | null;
    picked: readonly Zone[];
    onpoint: (zone: Zone) => void;
    onpick?: ((zone: Zone) => void) | undefined;
  }

  /** The names of zones and regions under the skin; a zone is picked by its name. */
  let { columns, frame, pointed, picked, onpoint, onpick }: Props = $props();
  const foot = $derived(frame.top + frame.plot + frame.skin);
  const regions = $derived(
    (words.all?.regions ?? []).flatMap((region) => {
      const own = columns.filter((column) => column.region === region.id);
      const first = own[0];
      const last = own.at(-1);
      return first && last ? [{ words: region.words, x: first.x, w: last.x + COLUMN - first.x }] : [];
    }),
  );
</script>

{#each columns as column (column.zone)}
  {@const chosen = picked.includes(column.zone)}
  <g
    role="presentation"
    class={onpick ? 'cursor-pointer' : ''}
    onpointerenter={() => onpoint(column.zone)}
    onclick={() => onpick?.(column.zone)}
  >
    <rect
      x={frame.left + column.x}
      y={foot + 1}
      width={COLUMN - 1}
      height={NAMES - 18}
      fill={chosen ? 'var(--accent-soft)' : 'none'}
      pointer-events="all"
      stroke={chosen ? 'var(--accent)' : 'none'}
    />
    <text
      transform="translate({frame.left + column.x + COLUMN / 2 - 4} {foot + 5}) rotate(90)"
      font-size="10.5"
      fill="var(--ink)"
      font-weight={chosen || pointed === column.zone ? 700 : 400}>{words.zone(column.zone)}</text
    >
  </g>
{/each}
{#each regions as region (region.words)}
  <text
    x={frame.left + region.x + region.w / 2}
    y={foot + NAMES - 3}
    text-anchor="middle"
    font-size="10.5"
    fill="var(--quiet)">{region.w > 45 ? region.words : ''}</text
  >
{/each}
