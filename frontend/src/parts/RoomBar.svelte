<script lang="ts">
  import type { Snippet } from 'svelte';
  import ArrowRight from '@lucide/svelte/icons/arrow-right';
  import AccountDialog from '../rooms/accounts/AccountDialog.svelte';
  import { p } from '../router';
  import { firstSteps } from './first-steps.svelte';
  import FirstSteps from './FirstSteps.svelte';
  import { inHand } from './in-hand.svelte';
  import MainMenu from './MainMenu.svelte';
  import { session } from './session.svelte';

  type Room =
    'sitters' | 'read' | 'shelf' | 'layer' | 'weigh' | 'pace' | 'class' | 'wear' | 'drill' | 'house';

  interface Props {
    /** The room that is open; none on a page that is no room. */
    room?: Room;
    /** What is done in this room: a second row. */
    children?: Snippet;
  }

  let { room, children }: Props = $props();
  let account = $state(false);
  const sitter = $derived(inHand.sitter);
  const plan = $derived(inHand.plan);
  /** The rooms in the order of the work. Where nobody is in hand yet, a room of one face leads to the sitters. */
  const rooms = $derived<{ id: Room; words: string; href: string; needs: string }[]>([
    { id: 'sitters', words: 'Sitters', href: p('/'), needs: '' },
    {
      id: 'read',
      words: 'Read',
      href: sitter ? p('/read/:id', { params: { id: sitter.id } }) : '',
      needs: 'Choose a sitter first',
    },
    { id: 'shelf', words: 'Shelf', href: p('/shelf'), needs: '' },
    {
      id: 'layer',
      words: 'Layer',
      href: plan ? p('/plans/:id', { params: { id: plan.id } }) : '',
      needs: 'Open a plan first',
    },
    {
      id: 'weigh',
      words: 'Weigh',
      href: plan ? p('/weigh/:id', { params: { id: plan.id } }) : '',
      needs: 'Open a plan first',
    },
    {
      id: 'pace',
      words: 'Pace',
      href: plan ? p('/pace/:id', { params: { id: plan.id } }) : '',
      needs: 'Open a plan first',
    },
    { id: 'class', words: 'Class', href: p('/class'), needs: '' },
    { id: 'wear', words: 'Wear', href: p('/wear'), needs: '' },
    { id: 'drill', words: 'Drill', href: p('/drill'), needs: '' },
    {
      id: 'house',
      words: 'House rules',
      href: p('/house', plan ? { search: { plan: plan.id } } : {}),
      needs: '',
    },
  ]);
  const NEXT: Partial<Record<Room, Room>> = {
    sitters: 'read',
    read: 'layer',
    shelf: 'layer',
    layer: 'weigh',
    weigh: 'pace',
    pace: 'class',
    class: 'wear',
    wear: 'layer',
  };
  const next = $derived(room && rooms.find((each) => each.id === NEXT[room] && each.href));
  const holding = $derived(
    sitter ? (plan?.name && plan.name !== sitter.name ? `${sitter.name} · ${plan.name}` : sitter.name) : '',
  );
</script>

<header class="no-print shrink-0 border-b border-line bg-panel">
  <div class="flex h-touch items-center gap-2 px-3">
    <a href={p('/')} class="flex items-center gap-2 font-bold" aria-label="Nabrel, to the sitters">
      <svg width="20" height="20" viewBox="0 0 32 32" aria-hidden="true">
        <path d="M2 25h28v4H2z" fill="var(--quiet)" />
        <path d="M2 19h15v4H2zM23 19h7v4h-7z" fill="var(--ink)" />
        <path d="M2 13h9v4H2zM15 13h15v4H15z" fill="var(--quiet)" />
        <path d="M8 7h14v4H8z" fill="var(--accent)" />
      </svg>
      <span class="hidden sm:inline">Nabrel</span>
    </a>
    {#if session.role !== 'student'}
      <nav aria-label="Rooms" class="flex h-full min-w-0 overflow-x-auto [scrollbar-width:none]">
        {#each rooms as each (each.id)}
          {#if each.href}
            <a
              href={each.href}
              aria-current={each.id === room ? 'page' : undefined}
              class="flex items-center border-b-2 px-2.5 whitespace-nowrap {each.id === room
                ? 'border-accent font-semibold'
                : 'border-transparent hover:border-line'}">{each.words}</a
            >
          {:else}
            <span
              class="flex items-center px-2.5 whitespace-nowrap text-quiet"
              title={each.needs}
              aria-disabled="true"
              role="link">{each.words}<span class="sr-only">. {each.needs}</span></span
            >
          {/if}
        {/each}
      </nav>
    {/if}
    <div class="ml-auto flex shrink-0 items-center gap-2 md:min-w-0 md:shrink">
      {#if holding && sitter}
        <a
          href={p('/sitters/:id', { params: { id: sitter.id } })}
          class="hidden min-w-0 truncate hover:underline md:block"
          title="In hand: {holding}"><span class="label">In hand:</span> {holding}</a
        >
      {/if}
      {#if next}
        <a
          href={next.href}
          class="btn hidden h-control shrink-0 px-2 lg:flex"
          title="What comes next in the work"
          ><span class="label">Next:</span>{next.words}<ArrowRight size={14} aria-hidden="true" /></a
        >
      {/if}
      <MainMenu onaccount={() => (account = true)} />
    </div>
  </div>
  {#if children}
    <div
      class="relative flex min-h-touch items-center gap-2 border-t border-line px-3 py-1.5 max-sm:overflow-x-auto max-sm:[scrollbar-width:none] sm:flex-wrap"
    >
      {@render children()}
    </div>
  {/if}
  {#if firstSteps.on}<FirstSteps {room} />{/if}
</header>

<AccountDialog bind:open={account} />
