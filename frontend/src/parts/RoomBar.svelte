<script lang="ts">
  import type { Snippet } from 'svelte';
  import Sun from '@lucide/svelte/icons/sun';
  import Moon from '@lucide/svelte/icons/moon';
  import Archive from '@lucide/svelte/icons/archive';
  import BookCheck from '@lucide/svelte/icons/book-check';
  import Keyboard from '@lucide/svelte/icons/keyboard';
  import { p } from '../router';
  import AccountDialog from '../rooms/accounts/AccountDialog.svelte';
  import { open } from './open.svelte';
  import { session } from './session.svelte';
  import { shortcuts } from './shortcuts.svelte';
  import { theme } from './theme.svelte';

  let { children }: { children?: Snippet } = $props();
  let account = $state(false);
</script>

<header
  class="no-print flex min-h-12 shrink-0 flex-wrap items-center gap-2 border-b border-line bg-panel px-3 py-1.5"
>
  <a
    href={p('/')}
    class="mr-1 flex items-center gap-2 text-base font-bold"
    aria-label="Nabrel, to the sitters"
  >
    <svg width="20" height="20" viewBox="0 0 32 32" aria-hidden="true">
      <path d="M2 25h28v4H2z" fill="var(--quiet)" />
      <path d="M2 19h15v4H2zM23 19h7v4h-7z" fill="var(--ink)" />
      <path d="M2 13h9v4H2zM15 13h15v4H15z" fill="var(--quiet)" />
      <path d="M8 7h14v4H8z" fill="var(--accent)" />
    </svg>
    Nabrel
  </a>
  {@render children?.()}
  <div class="ml-auto flex items-center gap-1.5">
    {#if session.role !== 'student'}
      <a class="btn px-2" href={p('/shelf')} aria-label="Shelf" title="Shelf"
        ><Archive size={16} aria-hidden="true" /></a
      >
      <a
        class="btn px-2"
        href={p('/house', open.plan ? { search: { plan: open.plan } } : {})}
        aria-label="House rules"
        title="House rules"><BookCheck size={16} aria-hidden="true" /></a
      >
      <button
        class="btn px-2"
        aria-label="Shortcuts"
        title="Shortcuts (?)"
        onclick={() => (shortcuts.sheetOpen = true)}
      >
        <Keyboard size={16} aria-hidden="true" />
      </button>
    {/if}
    {#if session.name}
      <button class="btn max-w-40 px-2" title="Your account" onclick={() => (account = true)}
        ><span class="truncate">{session.name}</span></button
      >
    {/if}
    <button
      class="btn px-2"
      aria-label={theme.room === 'light' ? 'Dark room' : 'Light room'}
      title={theme.room === 'light' ? 'Dark room' : 'Light room'}
      onclick={() => theme.switch()}
    >
      {#if theme.room === 'light'}<Moon size={16} aria-hidden="true" />{:else}<Sun
          size={16}
          aria-hidden="true"
        />{/if}
    </button>
  </div>
</header>

<AccountDialog bind:open={account} />
