<script lang="ts">
  import { p } from '../router';
</script>

<svelte:head><title>Nothing here – Nabrel</title></svelte:head>
<main class="grid h-full place-items-center">
  <div class="panel p-6">
    <h1 class="text-lg font-semibold">There is nothing at this address.</h1>
    <a class="btn mt-4" href={p('/')}>Go to the sitters</a>
  </div>
</main>
