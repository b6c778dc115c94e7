<script lang="ts">
  import { LIES } from './lies';

  /** Ids of the patterns that the section draws with. */
  let { grain, over }: { grain: string; over: string } = $props();
</script>

<span class="flex flex-wrap items-center gap-x-3 text-quiet" aria-hidden="true">
  <span class="flex items-center gap-1"
    ><svg width="14" height="6"
      ><line x1="0" x2="14" y1="3" y2="3" stroke="var(--ink)" stroke-width="1.6" /></svg
    >ceiling</span
  >
  <span class="flex items-center gap-1"
    ><svg width="12" height="12"
      ><rect width="12" height="12" fill="#bbb" /><rect width="12" height="12" fill="url(#{grain})" /></svg
    >powder</span
  >
  <span class="flex items-center gap-1"
    ><svg width="12" height="12"><rect width="12" height="12" fill="url(#{over})" /></svg>over</span
  >
  {#each Object.values(LIES) as state (state.words)}
    <span class="flex items-center gap-1"
      ><svg width="16" height="10" viewBox="-8 -5 16 10"
        ><path
          d={state.path}
          fill="none"
          stroke="var(--ink)"
          stroke-width="1.8"
          stroke-linecap="round"
        /></svg
      >{state.words}</span
    >
  {/each}
  <span class="flex items-center gap-1"
    ><svg width="12" height="12"
      ><rect
        x="1"
        y="1"
        width="10"
        height="10"
        fill="none"
        stroke="var(--ink)"
        stroke-dasharray="2 1.6"
      /></svg
    >shade or light; above it the % that reads through</span
  >
</span>
