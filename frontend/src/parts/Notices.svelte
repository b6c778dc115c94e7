<script lang="ts">
  import X from '@lucide/svelte/icons/x';
  import TriangleAlert from '@lucide/svelte/icons/triangle-alert';
  import Check from '@lucide/svelte/icons/check';
  import { notices } from './notices.svelte';
</script>

<div class="no-print pointer-events-none fixed right-3 bottom-3 z-50 flex w-96 max-w-[90vw] flex-col gap-2">
  {#each notices.shown as notice (notice.id)}
    <div
      role={notice.grave ? 'alert' : 'status'}
      class="pointer-events-auto flex items-start gap-2 rounded-control border-2 bg-well p-2.5 text-sm shadow-notice {notice.grave
        ? 'border-ink'
        : 'border-line'}"
    >
      {#if notice.grave}<TriangleAlert size={18} class="shrink-0" aria-label="Refused" />{:else}<Check
          size={18}
          class="shrink-0"
          aria-hidden="true"
        />{/if}
      <p class="grow break-words">{notice.text}</p>
      <button aria-label="Dismiss" onclick={() => notices.dismiss(notice.id)}><X size={16} /></button>
    </div>
  {/each}
</div>
