<script lang="ts">
  import { api, ask, type Described, type Product } from '../../api/client';
  import ByEye, { type JudgedColour } from '../../parts/ByEye.svelte';
  import Choice from '../../parts/Choice.svelte';
  import Modal from '../../parts/Modal.svelte';
  import Swatch from '../../parts/Swatch.svelte';
  import { tried } from '../../parts/tried';
  import { words } from '../../parts/vocabulary.svelte';
  import type { ShelfState } from './shelf.svelte';
  import { Resource } from '../../parts/resource.svelte';
  import { whenever } from '../../parts/whenever.svelte';
  import LoadFailed from '../../parts/LoadFailed.svelte';
  import Field from '../../parts/Field.svelte';

  /** An item in half a minute: its name, what it is, its shade by eye or as another item's, its cover by word. */
  let { shelf, open = $bindable() }: { shelf: ShelfState; open: boolean } = $props();
  type Nudge = NonNullable<Described['nudges']>[number];
  const NUDGES: Nudge[] = ['lighter', 'deeper', 'warmer', 'cooler'];
  let name = $state('');
  let role = $state<Product['role']>('foundation');
  let cover = $state<NonNullable<Described['cover']>>('medium');
  let like = $state('');
  let nudge = $state<Nudge | ''>('');
  let hue = $state('');
  let judged = $state.raw<JudgedColour | null>(null);
  let adding = $state(false);
  const hued = $derived(role === 'corrector' || role === 'colour');
  const coloured = $derived(words.all?.coloured_roles.includes(role) ?? false);
  const shaded = $derived((shelf.kit?.items ?? []).filter((item) => item.lab && item.role !== 'corrector'));

  const described = $derived<Described>({
    name: name.trim() || 'item',
    role,
    lab: coloured && !hued && !like ? (judged?.lab ?? null) : null,
    lab_sd: coloured && !hued && !like ? (judged?.labSd ?? null) : null,
    like: coloured && !hued && like ? like : null,
    nudges: nudge && like ? [nudge] : [],
    hue: hued && hue ? hue : null,
    cover: coloured ? cover : null,
  });

  const make = (body: Described) => ask(api.POST('/api/kit/described', { body }));

  /** The item as it would be; the one before is shown until it comes. */
  const making = new Resource(() => make(described));
  const found = $derived(making.value);
  whenever(
    () => open && described,
    (asked) => asked && void making.load(),
  );

  async function add(again: boolean) {
    if (!name.trim() || adding) return;
    const typed = name;
    adding = true;
    // What is shown may still be without the last letter.
    const made = await tried(make(described));
    const added = made && (await shelf.addItems([made.item]));
    adding = false;
    if (!added) return;
    if (name === typed) name = '';
    if (!again) open = false;
  }
</script>

<Modal bind:open title="Quick add" wide="56">
  {#snippet about()}Name it and say what it is: the rest is what is usual, marked as guessed, and can be
    measured later.{/snippet}
  {#snippet actions()}
    <button class="btn btn-main" disabled={adding || shelf.busy || !name.trim()} onclick={() => add(false)}
      >Add to the shelf</button
    >
    <button class="btn" disabled={adding || shelf.busy || !name.trim()} onclick={() => add(true)}
      >Add, and another</button
    >
  {/snippet}
  <div class="flex flex-col gap-3">
    <div class="flex flex-wrap items-end gap-3">
      <Field label="Name" outer="grow" maxlength={120} bind:value={name} />
      <div>
        <p class="label">What it is</p>
        <Choice
          label="What it is"
          value={role}
          options={(words.all?.roles ?? []).map((each) => ({
            id: each.id as Product['role'],
            words: each.words,
          }))}
          onchoose={(next) => (role = next)}
        />
      </div>
      {#if coloured}
        <div>
          <p class="label">Cover</p>
          <Choice
            label="Cover"
            value={cover}
            options={(words.all?.covers ?? []).map((each) => ({
              id: each.id as typeof cover,
              words: each.words,
            }))}
            onchoose={(next) => (cover = next)}
          />
        </div>
      {/if}
      {#if hued}
        <div>
          <p class="label">Hue</p>
          <Choice
            label="Hue"
            value={hue}
            options={[
              { id: '', words: 'Usual' },
              ...(words.all?.hues ?? []).map((each) => ({ id: each, words: each })),
            ]}
            onchoose={(next) => (hue = next)}
          />
        </div>
      {/if}
    </div>
    {#if coloured && !hued}
      <div class="flex flex-wrap items-end gap-3">
        <div>
          <p class="label">Shade</p>
          <Choice
            label="Shade"
            value={like}
            options={[
              { id: '', words: 'By eye' },
              ...shaded.map((item) => ({ id: item.id, words: `As deep as ${item.name}` })),
            ]}
            onchoose={(next) => (like = next)}
          />
        </div>
        {#if like}
          <span class="flex gap-1" role="group" aria-label="A little">
            {#each NUDGES as each (each)}
              <button
                class="btn h-control"
                aria-pressed={nudge === each}
                onclick={() => (nudge = nudge === each ? '' : each)}>{each}</button
              >
            {/each}
          </span>
        {/if}
      </div>
      {#if !like}<ByEye of="item" onjudged={(colour) => (judged = colour)} />{/if}
    {/if}
    {#if making.failed}
      <LoadFailed of={making} says="What it would be could not be worked out" />
    {:else if found}
      <p class="flex items-center gap-2" aria-live="polite">
        {#if found.swatch}<Swatch hex={found.swatch} size={28} />{/if}
        <span
          >≈ {words.role(found.item.role)}, {found.item.texture.replaceAll('_', ' ')}, {found.item.base} base{found
            .item.cover == null
            ? ''
            : `, cover about ${Math.round(found.item.cover * 100)} %`}</span
        >
      </p>
    {/if}
  </div>
</Modal>
