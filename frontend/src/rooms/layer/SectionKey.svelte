<script lang="ts">
  import { LIES } from './lies';
</script>

<span class="flex flex-wrap items-center gap-x-3 text-quiet" aria-hidden="true">
  <span class="flex items-center gap-1"
    ><svg width="14" height="6"
      ><line x1="0" x2="14" y1="3" y2="3" stroke="var(--ink)" stroke-width="1.6" /></svg
    >ceiling</span
  >
  <span class="flex items-center gap-1"
    ><svg width="12" height="12"
      ><rect
        width="12"
        height="12"
        fill="#bbb"
      />{#each [2, 6, 10] as x (x)}{#each [2, 6, 10] as y (y)}<circle
            cx={x}
            cy={y}
            r="0.75"
            opacity="0.5"
          /><circle cx={x + 2} cy={y + 2} r="0.75" fill="#fff" />{/each}{/each}</svg
    >powder</span
  >
  <span class="flex items-center gap-1"
    ><svg width="12" height="12"
      ><path d="M-1 5 L5 -1 M-1 12 L12 -1 M4 13 L13 4" stroke="var(--ink)" stroke-width="2.2" /></svg
    >over</span
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
