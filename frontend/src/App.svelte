<script lang="ts">
  import { Router } from 'sv-router';
  import './router';
  import CommandMenu from './parts/CommandMenu.svelte';
  import Notices from './parts/Notices.svelte';
  import ShortcutSheet from './parts/ShortcutSheet.svelte';
  import { shortcuts } from './parts/shortcuts.svelte';
</script>

<svelte:window onkeydown={(event) => shortcuts.handle(event)} />

<Router />
<Notices />
<ShortcutSheet />
<CommandMenu />
