<script lang="ts">
  import { p } from '../../router';
  import type { WorkbenchState } from './workbench.svelte';

  let { bench }: { bench: WorkbenchState } = $props();
</script>

<main class="grid grow place-items-center p-4">
  <div class="panel max-w-lg p-6" role="alert">
    <h1 class="heading text-lg">This plan could not be opened</h1>
    <p class="my-2 break-words">{bench.doc.failed}</p>
    <button class="btn" onclick={() => bench.doc.load()}>Try again</button>
    <a class="btn" href={p('/')}>Go to the sitters</a>
  </div>
</main>
