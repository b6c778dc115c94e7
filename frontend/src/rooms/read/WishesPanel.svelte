<script lang="ts">
  import X from '@lucide/svelte/icons/x';
  import { asRead } from '../../parts/face/colours';
  import WishesForm from '../../parts/WishesForm.svelte';
  import type { ReadState } from './read.svelte';

  let { read }: { read: ReadState } = $props();
  const face = $derived(read.face!);
  const colours = $derived(asRead(face.zones));
  const avoid = $derived(face.record.avoid ?? []);
  let added = $state('');
  function avoidAlso() {
    const word = added.trim();
    if (word && !avoid.some((each) => each.toLowerCase() === word.toLowerCase()))
      read.set({ avoid: [...avoid, word] });
    added = '';
  }
</script>

<section aria-label="What is wanted" class="panel p-3">
  <h2 class="heading mb-1">What is wanted</h2>
  <WishesForm intent={face.intent} onset={(change) => read.wish(change)} sitter={{ ...face, colours }} />
</section>

<section aria-label="Avoid" class="panel p-3">
  <h2 class="heading">Not on this skin</h2>
  <p class="label">
    Ask for allergies. Items that contain one of these, by any of its names, stay out of every plan.
  </p>
  <ul class="my-2 flex flex-wrap gap-1">
    {#each avoid as each (each)}
      <li class="btn cursor-default">
        {each}
        <button
          aria-label="No longer avoid {each}"
          onclick={() => read.set({ avoid: avoid.filter((other) => other !== each) })}
          ><X size={14} aria-hidden="true" /></button
        >
      </li>
    {:else}<li class="label">Nothing named.</li>{/each}
  </ul>
  <form
    class="flex gap-2"
    onsubmit={(event) => {
      event.preventDefault();
      avoidAlso();
    }}
  >
    <input
      class="field w-56"
      aria-label="Substance to avoid"
      placeholder="fragrance, lanolin, nut oils…"
      maxlength="120"
      bind:value={added}
    />
    <button class="btn" disabled={!added.trim()}>Avoid it</button>
  </form>
</section>
