<script lang="ts">
  import { zonesOf } from '../../plan/steps';
  import { Dialog } from 'bits-ui';
  import type { CoveringRow, Zone } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import Help from '../../parts/Help.svelte';
  import Swatch from '../../parts/Swatch.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import { CorrectorState } from './questions.svelte';
  import type { WorkbenchState } from './workbench.svelte';
  import Awaited from '../../parts/Awaited.svelte';

  let { bench, open = $bindable() }: { bench: WorkbenchState; open: boolean } = $props();
  const corrector = $derived(new CorrectorState(bench.id));
  const answer = $derived(corrector.asking.value);
  const read = $derived(
    (bench.doc.plan?.zones ?? [])
      .filter((zone) => zone.conditions.length > 0 || zone.measured)
      .map((zone) => zone.zone),
  );
  const asked = $derived(answer?.zones ?? read);

  $effect(() => {
    if (!open || corrector.zone) return;
    const step = (bench.stage.step ? zonesOf(bench.stage.step) : []).find((zone) => read.includes(zone));
    const first = bench.stage.pointed ?? step ?? read.find((zone) => zone.startsWith('under_eye')) ?? read[0];
    if (first) void corrector.about(first);
  });

  function name(id: string | null | undefined): string {
    return id ? (answer?.names[id] ?? id) : '';
  }

  async function take(row: CoveringRow) {
    open = false;
    if (row.take.length) await bench.doc.edit(row.take);
  }
</script>

<Dialog.Root bind:open>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/40" />
    <Dialog.Content
      class="panel fixed top-1/2 left-1/2 z-50 max-h-[92vh] w-[56rem] max-w-[96vw] -translate-x-1/2 -translate-y-1/2 overflow-auto p-4 shadow-raised"
    >
      <div class="flex flex-wrap items-center gap-3">
        <Dialog.Title class="text-lg font-semibold">Which corrector here?</Dialog.Title>
        {#if corrector.zone}
          <Choice
            label="Zone"
            value={corrector.zone}
            options={[...new Set([corrector.zone, ...asked])].map((zone) => ({
              id: zone,
              words: words.zone(zone),
            }))}
            onchoose={(zone: Zone) => corrector.about(zone)}
          />
        {/if}
      </div>
      {#if !read.length}
        <p class="my-3">No zone of this face was read as discoloured.</p>
      {:else if corrector.asking.loading || corrector.asking.failed || !answer}
        <Awaited
          of={corrector.asking}
          waits="Trying every pair and thickness on this skin…"
          says="No answer came"
          again="Ask again"
        />
      {:else}
        <Dialog.Description class="my-2">
          {answer.correction.says}
          <span class="label block">
            Judged under {answer.correction.foundation_um} µm of {name(answer.correction.foundation) ||
              'no foundation'}; the zone carries {answer.correction.room_um.toFixed(1)} µm more.
          </span>
        </Dialog.Description>
        <div class="mb-2 flex items-center gap-4 text-sm">
          <span class="flex items-center gap-2"
            ><Swatch hex={answer.correction.skin_hex} size={40} />skin here</span
          >
          <span class="flex items-center gap-2"
            ><Swatch hex={answer.correction.target_hex} size={40} />complexion</span
          >
        </div>
        <table class="w-full text-sm">
          <thead>
            <tr class="label text-left">
              <th class="p-1 font-normal">Corrector</th>
              <th class="p-1 font-normal">Concealer</th>
              <th class="p-1 text-right font-normal">Film <Help of="film" /></th>
              <th class="p-1 font-normal">Result</th>
              <th class="p-1 text-right font-normal">ΔE00 <Help of="delta_e" /></th>
              <th class="p-1 font-normal">Still</th>
              <th class="p-1 font-normal">Its hue shows <Help of="hue_shows" /></th>
              <th class="p-1"><span class="sr-only">Take</span></th>
            </tr>
          </thead>
          <tbody>
            {#each answer.rows as row (row.covering.corrector ?? 'none')}
              {@const each = row.covering}
              <tr class="border-t border-line">
                <td class="p-1">
                  {#if each.corrector}
                    <span class="flex items-center gap-1.5"
                      ><Swatch hex={answer.swatches[each.corrector] ?? ''} />{name(each.corrector)}
                      {each.corrector_um} µm</span
                    >
                  {:else}none{/if}
                  {#if row.label}<b class="label block">{row.label}</b>{/if}
                </td>
                <td class="p-1"
                  >{each.concealer ? `${name(each.concealer)} ${each.concealer_um} µm` : 'none'}</td
                >
                <td class="p-1 text-right font-semibold whitespace-nowrap">{each.film_um} µm</td>
                <td class="p-1">
                  <span class="flex"
                    ><Swatch hex={each.hex} size={26} title="Result {each.hex}" /><Swatch
                      hex={answer.correction.target_hex}
                      size={26}
                      title="Complexion"
                    /></span
                  >
                </td>
                <td class="p-1 text-right">{each.de.toFixed(1)}{each.near_enough ? '' : ' ▲'}</td>
                <td class="p-1">{each.misses}</td>
                <td class="p-1"
                  >{each.corrector
                    ? each.shows_from_um
                      ? `from ${each.shows_from_um} µm`
                      : 'never'
                    : ''}</td
                >
                <td class="p-1 text-right">
                  <button class="btn" disabled={bench.doc.busy || !row.take.length} onclick={() => take(row)}
                    >Take{#if each.corrector}<span class="sr-only"> {name(each.corrector)}</span>{/if}</button
                  >
                </td>
              </tr>
            {/each}
          </tbody>
        </table>
        <p class="label mt-2">
          ▲ not near enough. Of every corrector the least film that works is shown, the best first.
        </p>
      {/if}
      <Dialog.Close class="btn mt-3">Close</Dialog.Close>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
