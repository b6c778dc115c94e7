<script lang="ts">
  import type { Edit, Motion, Portion, Step, Tool } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import Face from '../../parts/face/Face.svelte';
  import { view } from '../../parts/view.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import AmountField from './AmountField.svelte';
  import type { WorkbenchState } from './workbench.svelte';

  interface Props {
    bench: WorkbenchState;
    step: Step;
    portion: Portion;
    place: number;
  }

  let { bench, step, portion, place }: Props = $props();

  const several = $derived(step.portions.length > 1);
  const says = $derived(bench.doc.plan?.portions[bench.stage.at]?.[place]);
  /** A long list of places is read off the small face. */
  const long = $derived((says?.where ?? '').length > 60);
  const told = $derived(
    [
      says?.amount || words.motion(portion.motion ?? ''),
      (portion.patch ?? 1) < 1 ? 'on the marks' : '',
      long ? '' : says?.where,
    ]
      .filter(Boolean)
      .join(' ')
      .replace(/^./, (first) => first.toUpperCase()),
  );
  const zones = $derived(portion.zones ?? []);
  const here = $derived(bench.stage.picked.filter((zone) => zones.includes(zone)));
  const named = $derived(several ? `, portion ${place + 1}` : '');
  const ladder = $derived(bench.doc.plan && step.unit ? bench.doc.plan.ladder[step.unit] : []);
  const motions = $derived(
    (words.all?.motions ?? []).map((motion) => ({
      id: motion.id,
      words: motion.words,
      note: `shear ${motion.shear}`,
    })),
  );
  const tools = $derived(
    (words.all?.tools ?? []).map((tool) => ({ id: tool.id as Tool, words: tool.words })),
  );

  async function act(edit: Edit[]) {
    bench.stage.picked = [];
    await bench.doc.edit(edit);
  }
</script>

<div
  class={several ? 'flex flex-col gap-2 rounded-control border border-line p-2' : 'flex flex-col gap-2'}
  role="group"
  aria-label={several ? `Portion ${place + 1}` : 'How it is laid'}
>
  {#if says?.where}
    <div class="flex items-center gap-2">
      <div class="h-16">
        <Face
          class="h-full w-auto shrink-0"
          label={says.where}
          drawn={{ proportions: bench.doc.plan?.proportions }}
          shown={{
            places: {
              zones,
              colours: portion.amount == null ? {} : bench.stage.coloursAt(bench.stage.at),
            },
          }}
        />
      </div>
      <p class="min-w-0">
        {#if several}<b>{place + 1}.</b>{/if}
        {told}.
        {#if portion.left_over}<span class="label">Takes nothing: it is what the tool still holds.</span>{/if}
      </p>
    </div>
  {/if}
  {#if step.unit && portion.amount != null}
    <AmountField
      value={portion.amount}
      unit={step.unit === 'um' ? 'µm' : 'mg/cm²'}
      label={several ? `Amount${named}` : 'Amount'}
      rungs={ladder.map((rung) => rung.amount)}
      most={words.limit(step.unit).high}
      told={view.instrument ? '' : (says?.amount ?? '')}
      onset={(amount) => bench.doc.edit([{ edit: 'amount', step: step.id, portion: place, amount }])}
    />
  {/if}
  {#if portion.motion}
    <div class="grid grid-cols-2 gap-2">
      {#if portion.tool}
        <div>
          <p class="label">With</p>
          <Choice
            label="Tool{named}"
            wide
            value={portion.tool}
            options={tools}
            onchoose={(tool: Tool) => bench.doc.edit([{ edit: 'hand', step: step.id, portion: place, tool }])}
          />
        </div>
      {/if}
      <div>
        <p class="label">Motion</p>
        <Choice
          label="Motion{named}"
          wide
          value={portion.motion}
          options={motions}
          onchoose={(motion: Motion) =>
            bench.doc.edit([{ edit: 'hand', step: step.id, portion: place, motion }])}
        />
      </div>
    </div>
  {/if}
  {#if portion.tool_dampened}<p class="label">The tool is misted first.</p>{/if}
  {#if zones.length > 1 || several}
    <div class="no-print flex flex-wrap gap-1">
      {#if here.length && here.length < zones.length}
        <button
          class="btn h-control-s"
          disabled={bench.doc.busy}
          onclick={() => act([{ edit: 'split_portion', step: step.id, portion: place, zones: here }])}
          >Split into a portion</button
        >
      {/if}
      {#if several && place > 0}
        <button
          class="btn h-control-s"
          disabled={bench.doc.busy}
          onclick={() => act([{ edit: 'merge_portions', step: step.id, portion: place - 1, other: place }])}
          >Combine with portion {place}</button
        >
      {/if}
    </div>
  {/if}
  {#each portion.why ?? [] as sentence (sentence)}<p class="label">{sentence}</p>{/each}
</div>
