<script lang="ts">
  import Hourglass from '@lucide/svelte/icons/hourglass';
  import { waiting, type Job } from '../api/patiently.svelte';

  /** What is worked on or waits for its turn, once it takes a while, each with a way to cancel it. */
  const said = (job: Job) =>
    job.working
      ? `Working on ${job.words}`
      : job.before === 0
        ? `Next: ${job.words}`
        : `Waiting for ${job.words}: ${job.before} before it`;
</script>

<div class="no-print fixed bottom-3 left-3 z-50 flex w-80 max-w-[90vw] flex-col gap-2" role="status">
  {#each waiting.jobs as job (job.id)}
    <div
      class="flex items-center gap-2 rounded-control border-2 border-line bg-well p-2.5 text-sm shadow-notice"
    >
      <Hourglass size={18} class="shrink-0" aria-hidden="true" />
      <p class="grow break-words">{said(job)}{job.seconds >= 5 ? ` (${job.seconds} s)` : ''}</p>
      <button class="btn" onclick={() => void waiting.cancel(job.id)}>Cancel</button>
    </div>
  {/each}
</div>
