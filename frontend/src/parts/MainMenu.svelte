<script lang="ts">
  import { DropdownMenu } from 'bits-ui';
  import Menu from '@lucide/svelte/icons/menu';
  import { navigate } from '../router';
  import AboutDialog from './AboutDialog.svelte';
  import { firstSteps } from './first-steps.svelte';
  import { session } from './session.svelte';
  import { shortcuts } from './shortcuts.svelte';
  import { view } from './view.svelte';
  import { theme } from './theme.svelte';

  let { onaccount }: { onaccount: () => void } = $props();
  let about = $state(false);
  const ITEM =
    'flex cursor-pointer items-center justify-between gap-6 rounded-control px-2 py-1.5 data-highlighted:bg-accent-soft';
</script>

<DropdownMenu.Root>
  <DropdownMenu.Trigger class="btn h-control shrink-0 px-2"
    ><Menu size={15} aria-hidden="true" />Menu</DropdownMenu.Trigger
  >
  <DropdownMenu.Portal>
    <DropdownMenu.Content class="panel z-50 min-w-52 bg-well p-1 shadow-raised" align="end" sideOffset={4}>
      {#if session.role !== 'student'}
        <DropdownMenu.Item class={ITEM} onSelect={() => (shortcuts.menuOpen = true)}
          >Find or do<kbd class="text-xs">Ctrl+K</kbd></DropdownMenu.Item
        >
        <DropdownMenu.Item class={ITEM} onSelect={() => view.switch()}
          >{view.instrument ? 'Tell amounts in words' : 'Tell amounts in µm'}</DropdownMenu.Item
        >
        <DropdownMenu.Item class={ITEM} onSelect={() => firstSteps.start()}
          >Guide me through a first plan</DropdownMenu.Item
        >
        <DropdownMenu.Item class={ITEM} onSelect={() => (shortcuts.sheetOpen = true)}
          >Shortcuts<kbd class="text-xs">?</kbd></DropdownMenu.Item
        >
      {/if}
      <DropdownMenu.Item class={ITEM} onSelect={() => theme.switch()}
        >{theme.room === 'light' ? 'Dark room' : 'Light room'}</DropdownMenu.Item
      >
      {#if session.role !== 'student'}
        <DropdownMenu.Item class={ITEM} onSelect={() => void navigate('/guide')}>Guide</DropdownMenu.Item>
      {/if}
      <DropdownMenu.Item class={ITEM} onSelect={() => (about = true)}>About Nabrel</DropdownMenu.Item>
      {#if session.name}
        <DropdownMenu.Item class={ITEM} onSelect={onaccount}
          >Your account<span class="label max-w-40 truncate">{session.name}</span></DropdownMenu.Item
        >
      {/if}
    </DropdownMenu.Content>
  </DropdownMenu.Portal>
</DropdownMenu.Root>

<AboutDialog bind:open={about} />
