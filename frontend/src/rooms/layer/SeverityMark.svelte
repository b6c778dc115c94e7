<script lang="ts">
  import type { Finding } from '../../api/client';
  import { MARK } from './marks';

  let { severity, size = 12 }: { severity: Finding['severity']; size?: number } = $props();
</script>

<svg
  viewBox="0 0 16 16"
  width={size}
  height={size}
  class="shrink-0"
  role="img"
  aria-label={MARK[severity].words}
>
  <path
    d={MARK[severity].shape}
    fill={severity === 'advice' ? 'none' : 'currentColor'}
    stroke="currentColor"
    stroke-width={severity === 'advice' ? 2 : 0}
    transform={severity === 'advice' ? 'translate(1 1) scale(0.875)' : undefined}
  />
</svg>
