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

  /** Under the skin: left and right of a pair, the regions, and the long name of the zone that is pointed at. */
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
  const named = $derived(columns.find((column) => column.zone === pointed));
  const name = $derived(named ? words.zone(named.zone) : '');
  /** Half the width that the name takes, near enough to hold it inside the drawing. */
  const half = $derived(name.length * 3.4 + 6);
  const at = $derived(
    named ? Math.min(frame.width - half, Math.max(half, frame.left + named.x + COLUMN / 2)) : 0,
  );

  function side(zone: Zone): string {
    return zone.endsWith('_l') ? 'L' : zone.endsWith('_r') ? 'R' : '·';
  }
</script>

{#each columns as column (column.zone)}
  {@const chosen = picked.includes(column.zone)}
  <g
    role="presentation"
    data-zone={column.zone}
    class={onpick ? 'cursor-pointer' : ''}
    onpointerenter={() => onpoint(column.zone)}
    onclick={() => onpick?.(column.zone)}
  >
    <rect
      x={frame.left + column.x}
      y={foot + 1}
      width={COLUMN - 1}
      height={NAMES - 20}
      fill={chosen ? 'var(--accent-soft)' : 'none'}
      pointer-events="all"
      stroke={chosen ? 'var(--accent)' : 'none'}
    />
    <text
      x={frame.left + column.x + (COLUMN - 1) / 2}
      y={foot + 15}
      text-anchor="middle"
      font-size="10.5"
      fill="var(--quiet)"
      font-weight={chosen || pointed === column.zone ? 700 : 400}>{side(column.zone)}</text
    >
  </g>
{/each}
{#each regions as region (region.words)}
  <line
    x1={frame.left + region.x}
    x2={frame.left + region.x + region.w - 1}
    y1={foot + NAMES - 18}
    y2={foot + NAMES - 18}
    stroke="var(--quiet)"
    stroke-width="0.8"
  />
  <text
    x={frame.left + region.x + region.w / 2}
    y={foot + NAMES - 5}
    text-anchor="middle"
    font-size="11.5"
    fill="var(--ink)">{region.w > 45 ? region.words : ''}</text
  >
{/each}
{#if named}
  <g pointer-events="none">
    <rect x={at - half} y={foot + NAMES - 17} width={half * 2} height="16" rx="2" fill="var(--ink)" />
    <text
      x={at}
      y={foot + NAMES - 5}
      text-anchor="middle"
      font-size="11.5"
      font-weight="600"
      fill="var(--panel)">{name}</text
    >
  </g>
{/if}
