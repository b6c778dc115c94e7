<script lang="ts">
  import RoomBar from '../../parts/RoomBar.svelte';
</script>

<svelte:head><title>Nabrel</title></svelte:head>
<div class="flex h-full flex-col">
  <RoomBar />
  <main class="grid grow place-items-center p-3">
    <div class="panel max-w-lg p-6">
      <h1 class="text-lg font-semibold">Nothing is shown to you yet</h1>
      <p class="mt-2">Drills and handouts that your educator shows to you will stand here.</p>
    </div>
  </main>
</div>
