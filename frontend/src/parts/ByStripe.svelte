<script lang="ts">
  import { onMount } from 'svelte';
  import { api, ask, type Lab } from '../api/client';
  import type { JudgedColour } from './ByEye.svelte';
  import { Latest } from './latest';
  import Swatch from './Swatch.svelte';
  import { tried } from './tried';
  import { Resource } from './resource.svelte';
  import LoadFailed from './LoadFailed.svelte';

  /** Skin judged by the foundation whose stripe vanishes on the jaw, or the two between which it lies; null until it is known. */
  let { onjudged }: { onjudged: (judged: JudgedColour | null) => void } = $props();
  type Nudge = 'lighter' | 'deeper' | 'warmer' | 'cooler';
  const NUDGES: [Nudge, Nudge][] = [
    ['lighter', 'deeper'],
    ['warmer', 'cooler'],
  ];
  const shelf = new Resource(() => ask(api.GET('/api/kit')));
  const kit = $derived(shelf.value);
  let chosen = $state.raw<string[]>([]);
  let nudges = $state.raw<Nudge[]>([]);
  let says = $state('');
  const foundations = $derived(
    (kit?.items ?? [])
      .filter((item) => ['foundation', 'concealer', 'powder_foundation'].includes(item.role) && item.lab)
      .sort((one, other) => (other.lab?.[0] ?? 0) - (one.lab?.[0] ?? 0)),
  );

  const asked = new Latest();

  onMount(() => void shelf.load());

  async function judge() {
    const [first, second = null] = chosen;
    asked.drop();
    says = '';
    // Nothing can be saved by what was chosen before.
    onjudged(null);
    if (!first) return;
    const found = await tried(asked.of(ask(api.POST('/api/by-stripe', { body: { first, second, nudges } }))));
    if (!found) return;
    says = found.says;
    onjudged({
      lab: found.lab as Lab,
      hex: found.hex,
      labSd: found.lab_sd,
      says: found.says,
      source: 'stripe',
    });
  }

  function choose(id: string) {
    chosen = chosen.includes(id) ? chosen.filter((each) => each !== id) : [...chosen.slice(-1), id];
    void judge();
  }

  function nudge(pair: [Nudge, Nudge], to: Nudge) {
    const on = nudges.includes(to);
    nudges = [...nudges.filter((each) => !pair.includes(each)), ...(on ? [] : [to])];
    void judge();
  }
</script>

<p class="mb-2">
  Lay a stripe of each likely shade on the jaw, in daylight. Tap the one that vanishes; tap a second where the
  skin lies between two.
</p>
{#if shelf.failed}<LoadFailed of={shelf} says="The shelf did not come" />
{:else if kit && !foundations.length}
  <p>No foundation or concealer is on the shelf yet. Add one, or judge by eye.</p>
{:else}
  <div class="flex max-h-64 flex-wrap gap-1 overflow-auto" role="group" aria-label="Stripes">
    {#each foundations as item (item.id)}
      <button
        type="button"
        class="btn h-control-l {chosen.includes(item.id) ? 'border-accent bg-accent-soft font-semibold' : ''}"
        aria-pressed={chosen.includes(item.id)}
        onclick={() => choose(item.id)}
        ><Swatch hex={kit?.swatches[item.id] ?? ''} size={22} />{item.name}</button
      >
    {/each}
  </div>
  <div class="mt-2 flex flex-wrap items-center gap-3">
    <span class="label">The skin is a little</span>
    {#each NUDGES as pair (pair[0])}
      <span class="flex gap-1">
        {#each pair as each (each)}
          <button
            type="button"
            class="btn h-control"
            aria-pressed={nudges.includes(each)}
            disabled={!chosen.length}
            onclick={() => nudge(pair, each)}>{each}</button
          >
        {/each}
      </span>
    {/each}
  </div>
  <p class="mt-2" aria-live="polite">{says}</p>
{/if}
