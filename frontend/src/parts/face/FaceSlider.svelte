<script lang="ts">
  import type { Zone } from '../../api/client';
  import Face from './Face.svelte';
  import type { Drawn, Pressed } from './inputs';

  interface Look extends Drawn {
    words: string;
  }

  interface Props {
    /** Shown on the viewer's left of the line. */
    left: Look;
    /** Shown on the viewer's right of it. */
    right: Look;
    chosen?: readonly Zone[];
    pressed?: Pressed;
  }

  let { left, right, chosen = [], pressed }: Props = $props();
  /** Where the line stands, in percent of the width; the middle gives half faces. */
  let line = $state(50);
</script>

<div class="relative min-h-0 grow">
  <Face drawn={right} shown={{ chosen }} {pressed} label="{right.words}, on the viewer's right of the line" />
  <div class="pointer-events-none absolute inset-0" style:clip-path="inset(0 {100 - line}% 0 0)">
    <Face drawn={left} shown={{ chosen }} label="{left.words}, on the viewer's left of the line" />
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
