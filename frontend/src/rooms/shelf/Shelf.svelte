<script lang="ts">
  import { onMount, tick } from 'svelte';
  import ClipboardList from '@lucide/svelte/icons/clipboard-list';
  import Zap from '@lucide/svelte/icons/zap';
  import Camera from '@lucide/svelte/icons/camera';
  import Brush from '@lucide/svelte/icons/brush';
  import Download from '@lucide/svelte/icons/download';
  import Plus from '@lucide/svelte/icons/plus';
  import Upload from '@lucide/svelte/icons/upload';
  import Choice from '../../parts/Choice.svelte';
  import Help from '../../parts/Help.svelte';
  import Modal from '../../parts/Modal.svelte';
  import RoomBar from '../../parts/RoomBar.svelte';
  import Swatch from '../../parts/Swatch.svelte';
  import { shortcuts } from '../../parts/shortcuts.svelte';
  import FromPhoto from './FromPhoto.svelte';
  import GenericDialog from './GenericDialog.svelte';
  import ItemForm from './ItemForm.svelte';
  import KitBar from './KitBar.svelte';
  import PasteMany from './PasteMany.svelte';
  import QuickAdd from './QuickAdd.svelte';
  import ToolsDialog from './ToolsDialog.svelte';
  import TwinsList from './TwinsList.svelte';
  import { ShelfState } from './shelf.svelte';
  import Awaited from '../../parts/Awaited.svelte';

  const shelf = new ShelfState();
  let picker = $state<HTMLInputElement>();
  let toolsOpen = $state(false);
  let quickOpen = $state(false);
  let pasteOpen = $state(false);
  let genericOpen = $state(false);
  let photoOpen = $state(false);
  const unready = $derived(shelf.tools.all?.tools.filter((each) => !each.ready).length ?? 0);
  let search = $state<HTMLInputElement>();
  const good = $derived(shelf.table.shown?.found.rows.filter((row) => row.status !== 'problem').length ?? 0);
  const bad = $derived((shelf.table.shown?.found.rows.length ?? 0) - good);
  const FILTERS = [
    { name: 'texture', words: 'Texture', every: 'Every texture' },
    { name: 'base', words: 'Base', every: 'Every base' },
    { name: 'depth', words: 'Depth', every: 'Every depth' },
  ] as const;
  const SOURCES = {
    stripe: 'by a stripe',
    eye: 'shade by eye',
    guessed: 'guessed',
  } as const;
  const MARKS = { new: '+ new', same: '= same', changed: '~ changed', problem: '▲ problem' } as const;

  onMount(() => {
    void shelf.opening.load().then(() => {
      const asked = new URLSearchParams(location.search);
      const item = shelf.kit?.items.find((each) => each.id === asked.get('item'));
      if (!item) return;
      shelf.item.write(item);
      // What is to be found out of the item is asked for at once.
      void tick().then(() => document.getElementById(`settle-${asked.get('settle')}`)?.focus());
    });
    return shortcuts.declare([
      { keys: '/', does: 'Search the shelf', run: () => search?.focus() },
      { keys: 'q', does: 'Quick add', run: () => (quickOpen = true) },
      { keys: 'p', does: 'Read colours from a photo', run: () => (photoOpen = true) },
      { keys: 'n', does: 'New item', run: () => shelf.item.fresh() },
      { keys: 't', does: 'Tools and whether they are clean', run: () => (toolsOpen = true) },
      { keys: 'i', does: 'Take a table in', run: () => picker?.click() },
    ]);
  });

  function picked(event: Event & { currentTarget: HTMLInputElement }) {
    const file = event.currentTarget.files?.[0];
    event.currentTarget.value = '';
    if (file) void shelf.table.preview(file);
  }
</script>

<ToolsDialog {shelf} bind:open={toolsOpen} />
<QuickAdd {shelf} bind:open={quickOpen} />
<PasteMany {shelf} bind:open={pasteOpen} />
<GenericDialog {shelf} bind:open={genericOpen} />
<FromPhoto {shelf} bind:open={photoOpen} />

<svelte:head><title>Shelf – Nabrel</title></svelte:head>

<div class="flex h-full flex-col">
  <RoomBar room="shelf">
    <h1 class="sr-only">Shelf</h1>
    <button class="btn btn-main" title="Quick add (q)" onclick={() => (quickOpen = true)}
      ><Zap size={15} aria-hidden="true" />Quick add</button
    >
    <button class="btn" onclick={() => (pasteOpen = true)}
      ><ClipboardList size={15} aria-hidden="true" />Paste a list</button
    >
    <button class="btn" title="Read from a photo (p)" onclick={() => (photoOpen = true)}
      ><Camera size={15} aria-hidden="true" />Read from a photo</button
    >
    <button class="btn" title="New item (n)" onclick={() => shelf.item.fresh()}
      ><Plus size={15} aria-hidden="true" />New item</button
    >
    <button class="btn" title="Import CSV (i)" disabled={shelf.busy} onclick={() => picker?.click()}
      ><Upload size={15} aria-hidden="true" />Import CSV</button
    >
    <button class="btn" title="Tools (t)" onclick={() => (toolsOpen = true)}
      ><Brush size={15} aria-hidden="true" />Tools{#if unready}<b>▲ {unready}</b><span class="sr-only">
          not ready</span
        >{/if}</button
    >
    <a class="btn" href="/api/kit/table" download><Download size={15} aria-hidden="true" />Export CSV</a>
    <input
      bind:this={picker}
      type="file"
      accept=".csv,text/csv"
      class="hidden"
      aria-label="Kit table"
      onchange={picked}
    />
  </RoomBar>
  {#if shelf.opening.failed || !shelf.kit}
    <Awaited of={shelf.opening} waits="Opening the shelf…" says="The shelf could not be opened" room />
  {:else}
    <main
      class="grid min-h-0 grow content-start gap-2 overflow-auto p-2 lg:grid-rows-[minmax(0,1fr)] lg:content-stretch lg:overflow-hidden {shelf
        .item.draft
        ? 'lg:grid-cols-[minmax(0,1fr)_24rem]'
        : ''}"
    >
      <div
        class="panel min-w-0 p-2.5 pt-0 lg:min-h-0 lg:overflow-auto {shelf.item.draft
          ? 'order-last lg:order-first'
          : ''}"
      >
        <div class="sticky top-0 flex flex-wrap items-center gap-3 bg-panel py-2.5">
          <input
            bind:this={search}
            bind:value={shelf.search.sought}
            type="search"
            class="field min-w-48 grow"
            placeholder="Search names, textures, bases"
            aria-label="Search the shelf"
          />
          <Choice
            label="Role"
            value={shelf.search.role}
            options={[
              { id: 'all', words: 'Every role' },
              ...shelf.search.found('role').map((role) => ({ id: role, words: role.replaceAll('_', ' ') })),
            ]}
            onchoose={(role) => (shelf.search.role = role)}
          />
          {#each FILTERS as filter (filter.name)}
            <Choice
              label={filter.words}
              value={shelf.search[filter.name]}
              options={[
                { id: 'all', words: filter.every },
                ...(filter.name === 'depth' ? shelf.search.depths : shelf.search.found(filter.name)).map(
                  (each) => ({
                    id: each,
                    words: each.replaceAll('_', ' '),
                  }),
                ),
              ]}
              onchoose={(next) => (shelf.search[filter.name] = next)}
            />
          {/each}
          <span class="label" aria-live="polite"
            >{shelf.search.items.length} of {shelf.kit.items.length} items</span
          >
        </div>
        <KitBar {shelf} />
        <TwinsList {shelf} />
        {#if !shelf.kit.items.length}
          <div class="p-3">
            <p class="mb-2">
              The shelf is empty: plans use a generic kit, and say so. Add what you own, paste a list, or
              start from the generic kit and replace it item by item.
            </p>
            <button class="btn" onclick={() => (genericOpen = true)}>Start from the generic kit…</button>
          </div>
        {:else if !shelf.search.items.length}
          <p class="p-3">No matching item.</p>
        {:else}
          <table class="w-full text-sm">
            <thead>
              <tr class="label text-left">
                {#if shelf.kits.named}<th class="p-1 font-normal">In it</th>{/if}
                <th class="p-1 font-normal">Item</th>
                <th class="p-1 font-normal">Sold as</th>
                <th class="hidden p-1 font-normal sm:table-cell">Texture, base</th>
                <th class="hidden p-1 font-normal sm:table-cell">Finish</th>
                <th class="p-1 text-right font-normal">Cover <Help of="cover" /></th>
                <th class="hidden p-1 text-right font-normal sm:table-cell">Content</th>
                <th class="hidden p-1 text-right font-normal sm:table-cell">Price</th>
              </tr>
            </thead>
            <tbody>
              {#each shelf.search.items as item (item.id)}
                <tr
                  class="border-t border-line {item.id === shelf.item.draft?.id
                    ? 'bg-accent-soft'
                    : 'hover:bg-well'}"
                >
                  {#if shelf.kits.named}
                    <td class="p-1"
                      ><input
                        type="checkbox"
                        class="accent-[var(--accent)]"
                        aria-label="{item.name} in {shelf.kits.named.name}"
                        disabled={shelf.busy}
                        checked={shelf.kits.holds(item)}
                        onchange={(event) => shelf.kits.putIn(item, event.currentTarget.checked)}
                      /></td
                    >
                  {/if}
                  <td class="p-1">
                    <button
                      class="flex w-full items-center gap-1.5 text-left"
                      onclick={() => shelf.item.write(item)}
                      >{#if shelf.kit.swatches[item.id]}<Swatch
                          hex={shelf.kit.swatches[item.id] ?? ''}
                        />{:else}<span class="inline-block w-4" aria-hidden="true"
                        ></span>{/if}{item.name}</button
                    >
                    {#if item.source === 'photo'}<span class="label block pl-5.5"
                        >from a photograph{item.lab_sd == null
                          ? ''
                          : `, ± ΔE00 ${item.lab_sd.toFixed(1)}`}</span
                      >{:else if item.source && item.source !== 'measured'}<span class="label block pl-5.5"
                        >≈ {SOURCES[item.source]}:
                        <button class="underline" onclick={() => (photoOpen = true)}
                          >read it from a photo<span class="sr-only"> to measure {item.name}</span></button
                        ></span
                      >{/if}
                    {#if shelf.kit.standing[item.id]?.says}
                      {@const age = shelf.kit.standing[item.id]}
                      <span class="label block pl-5.5"
                        ><b>{age?.state === 'over' ? '▲' : age?.state === 'soon' ? '◆' : '●'}</b>
                        {age?.says}</span
                      >
                    {/if}
                  </td>
                  <td class="p-1">{item.role.replaceAll('_', ' ')}</td>
                  <td class="hidden p-1 sm:table-cell">{item.texture.replaceAll('_', ' ')}, {item.base}</td>
                  <td class="hidden p-1 sm:table-cell">{item.lab ? item.finish : ''}</td>
                  <td class="p-1 text-right whitespace-nowrap"
                    >{item.cover == null ? '' : `${Math.round(item.cover * 100)} %`}</td
                  >
                  <td class="hidden p-1 text-right whitespace-nowrap sm:table-cell"
                    >{item.ml ? `${item.ml} ml` : item.g ? `${item.g} g` : ''}{item.left == null
                      ? ''
                      : `, ${Math.round(item.left * 100)} % left`}</td
                  >
                  <td class="hidden p-1 text-right whitespace-nowrap sm:table-cell"
                    >{item.price?.toFixed(2) ?? ''}</td
                  >
                </tr>
              {/each}
            </tbody>
          </table>
        {/if}
      </div>
      {#if shelf.item.draft}<ItemForm {shelf} item={shelf.item.draft} />{/if}
    </main>
  {/if}
</div>

<Modal
  bind:open={
    () => shelf.table.shown !== null,
    (open) => {
      if (!open) shelf.table.shown = null;
    }
  }
  title="Before the import"
>
  {#snippet about()}
    {shelf.table.shown?.file.name}: {good}
    {good === 1 ? 'row' : 'rows'} can be taken in{bad ? `, ${bad} cannot and would be left out` : ''}. Nothing
    is saved yet.
  {/snippet}
  {#snippet actions()}
    <button class="btn btn-main" disabled={shelf.busy || !good} onclick={() => shelf.table.take()}
      >Take in {good} {good === 1 ? 'row' : 'rows'}</button
    >
  {/snippet}
  <table class="w-full text-sm">
    <thead>
      <tr class="label text-left">
        <th class="p-1 font-normal">Line</th>
        <th class="p-1 font-normal">Item</th>
        <th class="p-1 font-normal">What it does</th>
      </tr>
    </thead>
    <tbody>
      {#each shelf.table.shown?.found.rows ?? [] as row (row.line)}
        <tr class="border-t border-line align-top">
          <td class="p-1">{row.line}</td>
          <td class="p-1"
            ><span class="flex items-center gap-1.5"
              >{#if row.swatch}<Swatch hex={row.swatch} />{/if}{row.name}</span
            ></td
          >
          <td class="p-1"><b>{MARKS[row.status]}</b> {row.says}</td>
        </tr>
      {/each}
    </tbody>
  </table>
</Modal>
