<script lang="ts">
  import { Router } from 'sv-router';
  import './router';
  import ClashDialog from './parts/ClashDialog.svelte';
  import CommandMenu from './parts/CommandMenu.svelte';
  import Notices from './parts/Notices.svelte';
  import ShortcutSheet from './parts/ShortcutSheet.svelte';
  import { waiting } from './api/patiently.svelte';
  import { session } from './parts/session.svelte';
  import { shortcuts } from './parts/shortcuts.svelte';
  import SignIn from './rooms/accounts/SignIn.svelte';

  let student = $state(false);
  $effect(() => {
    if (session.role) student = session.role === 'student';
  });
  void session.load();
</script>

<svelte:window
  onkeydown={(event) => session.needed || shortcuts.handle(event)}
  onclick={(event) => {
    if ((event.target as Element).closest?.('a[download][href^="/api/"]')) waiting.fetching();
  }}
/>

{#if session.known && (!session.demanded || session.entered)}
  {#if student}{#await import('./rooms/accounts/StudentRoom.svelte') then { default: StudentRoom }}<StudentRoom
      />{/await}{:else}<Router /><CommandMenu />{/if}
{/if}
{#if session.needed}<SignIn />{/if}
{#if waiting.jobs.length}{#await import('./parts/WaitingList.svelte') then { default: WaitingList }}<WaitingList
    />{/await}{/if}
<ClashDialog />
<Notices />
<ShortcutSheet />
