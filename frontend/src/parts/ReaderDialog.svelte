<script lang="ts">
  import { api, ask, type Lab, type SkinPlace, type Reader } from '../api/client';
  import Modal from './Modal.svelte';
  import { notices } from './notices.svelte';
  import Swatch from './Swatch.svelte';

  interface Props {
    sitter: string;
    /** The record of a base that is worn: then it is read, not the skin. */
    wear?: string;
    place: SkinPlace;
    words: string;
    open: boolean;
    /** The mean of the takes that count is to be kept. */
    onsave: (lab: Lab, takes: number, spread: number) => unknown;
  }

  let { sitter, wear, place, words, open = $bindable(), onsave }: Props = $props();
  let found = $state.raw<Reader | null>(null);
  let busy = $state(false);
  const far = $derived(found?.takes.filter((take) => take.far).length ?? 0);

  async function take(kept: number[][], more: number) {
    busy = true;
    try {
      found = await ask(
        api.POST('/api/sitters/{id}/reader', {
          params: { path: { id: sitter } },
          body: { place, takes: kept, more, ...(wear ? { wear } : {}) },
        }),
      );
    } catch (error) {
      notices.refuse(error);
    } finally {
      busy = false;
    }
  }

  $effect(() => {
    if (!open) found = null;
  });

  async function save() {
    if (!found) return;
    await onsave(found.mean as Lab, found.takes.length - far, found.spread);
    open = false;
  }
</script>

<Modal bind:open title="Colour reader: {words}" wide="34">
  {#snippet about()}
    A simulated reader stands in for an instrument. Hold it flat, without pressing, off marks and vessels;
    three takes or more.
  {/snippet}
  {#snippet actions()}
    {#if found && far}
      <button
        class="btn"
        disabled={busy}
        onclick={() => take(found?.takes.filter((each) => !each.far).map((each) => each.lab) ?? [], far)}
        >Take {far === 1 ? 'it' : `the ${far}`} again</button
      >
    {/if}
    <button
      class="btn"
      disabled={busy}
      onclick={() => take(found?.takes.map((each) => each.lab) ?? [], found ? 1 : 5)}
      >{found ? 'Take one more' : 'Take five'}</button
    >
    {#if found}<button class="btn btn-main" disabled={busy} onclick={save}>Save the mean</button>{/if}
  {/snippet}
  {#if found}
    <p class="mb-2 flex items-center gap-2" aria-live="polite">
      <Swatch hex={found.hex} size={26} /><span
        ><b>L* {found.mean[0]}, a* {found.mean[1]}, b* {found.mean[2]}</b><br />{found.says}</span
      >
    </p>
    <table class="w-full">
      <thead>
        <tr class="label text-left"
          ><th class="font-normal">Take</th><th class="font-normal">L* a* b*</th><th
            class="text-right font-normal">ΔE00 from the middle</th
          ></tr
        >
      </thead>
      <tbody>
        {#each found.takes as each, number (number)}
          <tr class="border-t border-line">
            <td class="py-1"
              ><span class="flex items-center gap-1.5"><Swatch hex={each.hex} />{number + 1}</span></td
            >
            <td>{each.lab.map((part) => part.toFixed(1)).join('  ')}</td>
            <td class="text-right"
              >{each.off.toFixed(1)}{#if each.far}<b class="block">▲ too far off, left out</b>{/if}</td
            >
          </tr>
        {/each}
      </tbody>
    </table>
  {/if}
</Modal>
