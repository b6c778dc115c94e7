<script lang="ts">
  import { Dialog } from 'bits-ui';
  import { api, ask, type Hit } from '../api/client';
  import { navigate } from '../router';
  import { Resource } from './resource.svelte';
  import { shortcuts } from './shortcuts.svelte';
  import { whenever } from './whenever.svelte';

  const uid = $props.id();
  const rooms = [
    { does: 'Go to the sitters', run: () => void navigate('/') },
    { does: 'Go to the shelf', run: () => void navigate('/shelf') },
    { does: 'Go to the classes', run: () => void navigate('/class') },
    { does: 'Go to the drills', run: () => void navigate('/drill') },
    { does: 'Go to the house rules', run: () => void navigate('/house') },
    { does: 'Show the shortcuts', run: () => (shortcuts.sheetOpen = true) },
  ];
  let sought = $state('');
  let at = $state(0);
  const search = new Resource(() => ask(api.GET('/api/search', { params: { query: { q: sought.trim() } } })));
  const PAUSE_MS = 120;
  const KINDS = { sitter: 'sitter', plan: 'plan', item: 'on the shelf' };
  const commands = $derived(
    [...shortcuts.declared, ...rooms.map((each) => ({ ...each, keys: '' }))].filter((each) =>
      each.does.toLowerCase().includes(sought.trim().toLowerCase()),
    ),
  );
  const things = $derived(
    (search.failed ? [] : (search.value?.hits ?? [])).map((hit) => ({
      key: `${hit.kind} ${hit.id}`,
      does: hit.words,
      keys: [KINDS[hit.kind], hit.about].filter(Boolean).join(' · '),
      run: () => void go(hit),
    })),
  );
  const found = $derived([...things, ...commands.map((each) => ({ ...each, key: each.does }))]);

  whenever(
    () => sought.trim(),
    (q) => {
      if (!q) return search.forget();
      // A pause in the typing asks once.
      const waiting = setTimeout(() => void search.load(), PAUSE_MS);
      return () => clearTimeout(waiting);
    },
  );

  async function go(hit: Hit) {
    if (hit.kind === 'plan') await navigate('/plans/:id', { params: { id: hit.id } });
    else if (hit.kind === 'sitter') await navigate('/sitters/:id', { params: { id: hit.id } });
    else await navigate('/shelf', { search: { item: hit.id } });
  }

  whenever(
    () => shortcuts.menuOpen,
    (open) => {
      if (open) sought = '';
    },
  );

  /** The field takes the keys as soon as it is there: what is typed at once is not lost. */
  const takesKeys = (field: HTMLInputElement) => field.focus();

  function choose(run: (() => void) | undefined) {
    if (!run) return;
    shortcuts.menuOpen = false;
    // The menu gives its focus back first, so that what is run may take it.
    setTimeout(run);
  }

  function key(event: KeyboardEvent) {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (step !== undefined) {
      event.preventDefault();
      at = (at + step + found.length) % Math.max(1, found.length);
      document.getElementById(`${uid}-${at}`)?.scrollIntoView({ block: 'nearest' });
    } else if (event.key === 'Enter') {
      event.preventDefault();
      choose(found[at]?.run);
    }
  }
</script>

<Dialog.Root bind:open={shortcuts.menuOpen}>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/40" />
    <Dialog.Content
      class="panel fixed top-24 left-1/2 z-50 w-[30rem] max-w-[94vw] -translate-x-1/2 p-2 shadow-raised"
    >
      <Dialog.Title class="sr-only">Find or do</Dialog.Title>
      <input
        class="field h-control-l w-full"
        role="combobox"
        aria-label="Find or do"
        aria-expanded="true"
        aria-controls="{uid}-list"
        aria-activedescendant={found.length ? `${uid}-${at}` : undefined}
        placeholder="A sitter, a plan, an item or a command"
        bind:value={sought}
        {@attach takesKeys}
        oninput={() => (at = 0)}
        onkeydown={key}
      />
      {#if found.length}
        <ul
          id="{uid}-list"
          role="listbox"
          aria-label="Found"
          class="mt-1 max-h-80 overflow-auto"
          tabindex="-1"
        >
          {#each found as each, place (each.key)}
            <!-- The combobox above takes the keys. -->
            <!-- svelte-ignore a11y_click_events_have_key_events -->
            <li
              id="{uid}-{place}"
              role="option"
              aria-selected={place === at}
              class="flex cursor-pointer items-center justify-between rounded-control px-2 py-1 {place === at
                ? 'bg-accent-soft'
                : ''}"
              onpointerenter={() => (at = place)}
              onclick={() => choose(each.run)}
            >
              {each.does}{#if each.keys}<kbd class="text-xs">{each.keys}</kbd>{/if}
            </li>
          {/each}
        </ul>
      {:else}<p id="{uid}-list" class="p-2" role="status">No matching command, sitter, plan or item.</p>{/if}
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
