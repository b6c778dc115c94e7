<script lang="ts">
  let { hex, title = '', size = 16 }: { hex: string; title?: string; size?: number } = $props();
</script>

<svg
  width={size}
  height={size}
  class="shrink-0"
  role={title ? 'img' : undefined}
  aria-hidden={title ? undefined : true}
>
  {#if title}<title>{title}</title>{/if}
  <rect x="0.5" y="0.5" width={size - 1} height={size - 1} rx="2" fill={hex} stroke="var(--line)" />
</svg>
