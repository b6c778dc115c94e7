<script lang="ts">
  import type { Proportions, Zone } from '../api/client';
  import FaceMap from './FaceMap.svelte';

  interface Look {
    colours: Record<Zone, string>;
    words: string;
  }

  interface Props {
    /** Shown on the viewer's left of the line. */
    left: Look;
    /** Shown on the viewer's right of it. */
    right: Look;
    chosen?: readonly Zone[];
    proportions?: Proportions;
    onpoint?: (zone: Zone | null) => void;
  }

  let { left, right, chosen = [], proportions, onpoint }: Props = $props();
  /** Where the line stands, in percent of the width; the middle gives half faces. */
  let line = $state(50);
</script>

<div class="relative min-h-0 grow">
  <FaceMap
    colours={right.colours}
    {chosen}
    {proportions}
    {onpoint}
    label="{right.words}, on the viewer's right of the line"
  />
  <div class="pointer-events-none absolute inset-0" style:clip-path="inset(0 {100 - line}% 0 0)">
    <FaceMap
      colours={left.colours}
      {chosen}
      {proportions}
      label="{left.words}, on the viewer's left of the line"
    />
  </div>
  <div class="pointer-events-none absolute inset-y-0 w-px bg-ink" style:left="{line}%"></div>
</div>
<label class="flex items-center gap-2 text-xs">
  <span class="max-w-28 truncate">{left.words}</span>
  <input
    type="range"
    class="grow accent-[var(--accent)]"
    min="0"
    max="100"
    bind:value={line}
    aria-label="Line between {left.words} and {right.words}"
    aria-valuetext={line === 50 ? 'half faces' : `${line} % ${left.words}`}
  />
  <span class="max-w-28 truncate">{right.words}</span>
</label>
