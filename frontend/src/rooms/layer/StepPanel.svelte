<script lang="ts">
  import { keyOf } from './marks';
  import ArrowDown from '@lucide/svelte/icons/arrow-down';
  import ArrowUp from '@lucide/svelte/icons/arrow-up';
  import Trash2 from '@lucide/svelte/icons/trash-2';
  import type { Motion, Tool } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import Swatch from '../../parts/Swatch.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import AmountField from './AmountField.svelte';
  import FindingCard from './FindingCard.svelte';
  import ProductSwap from './ProductSwap.svelte';
  import ReachLine from './ReachLine.svelte';
  import ZonesField from './ZonesField.svelte';
  import type { WorkbenchState } from './workbench.svelte';

  let { bench }: { bench: WorkbenchState } = $props();

  const step = $derived(bench.step);
  const product = $derived(step?.product ? bench.plan?.products[step.product] : undefined);
  const found = $derived(step ? bench.findingsOf(step.id) : []);
  const brought = $derived((step && bench.plan?.carried[bench.at]) || []);
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
</script>

{#if step}
  <section aria-label="Chosen step" class="flex flex-col gap-3">
    <header class="flex items-start justify-between gap-2">
      <h2 class="text-lg font-semibold">{bench.at + 1}. {words.step(step.kind)}</h2>
      <div class="no-print flex gap-1">
        <button
          class="btn px-2"
          aria-label="Earlier"
          title="Earlier (Alt+ArrowUp)"
          onclick={() => bench.move(step, -1)}><ArrowUp size={14} aria-hidden="true" /></button
        >
        <button
          class="btn px-2"
          aria-label="Later"
          title="Later (Alt+ArrowDown)"
          onclick={() => bench.move(step, 1)}><ArrowDown size={14} aria-hidden="true" /></button
        >
        <button
          class="btn px-2"
          aria-label="Take this step out"
          title="Take this step out (Delete)"
          onclick={() => bench.edit([{ edit: 'remove', step: step.id }])}
          ><Trash2 size={14} aria-hidden="true" /></button
        >
      </div>
    </header>

    {#if product}
      <div class="flex items-center gap-2">
        {#if step.product && bench.plan?.swatches[step.product]}<Swatch
            hex={bench.plan.swatches[step.product] ?? ''}
            size={24}
          />{/if}
        <div class="min-w-0 grow">
          <p class="truncate font-semibold">{product.name}</p>
          <p class="label">
            {product.texture.replaceAll('_', ' ')}, {product.base} base{product.cover == null
              ? ''
              : `, cover ${Math.round(product.cover * 100)} %`}
          </p>
        </div>
        <ProductSwap {bench} {step} />
      </div>
    {/if}

    <!-- What is pressed stands above what is told: no answer may move a button from under a finger. -->
    {#if step.film_um != null || step.powder_mg_cm2 != null}
      <div>
        <p class="label">How much on the skin</p>
        {#if step.film_um != null}
          <AmountField
            value={step.film_um}
            unit="µm"
            step={0.5}
            most={40}
            onset={(film_um) => bench.edit([{ edit: 'amount', step: step.id, film_um }])}
          />
        {:else if step.powder_mg_cm2 != null}
          <AmountField
            value={step.powder_mg_cm2}
            unit="mg/cm²"
            step={0.05}
            most={2}
            onset={(powder_mg_cm2) => bench.edit([{ edit: 'amount', step: step.id, powder_mg_cm2 }])}
          />
        {/if}
        {#if step.take}
          <p class="mt-1">Take <b>{step.take.words}</b> ({step.take.amount} {step.take.unit}).</p>
        {/if}
      </div>
    {/if}

    {#if step.tool && step.motion}
      <div class="grid grid-cols-2 gap-2">
        <div>
          <p class="label">With</p>
          <Choice
            label="Tool"
            wide
            value={step.tool}
            options={tools}
            onchoose={(tool: Tool) => bench.edit([{ edit: 'hand', step: step.id, tool }])}
          />
        </div>
        <div>
          <p class="label">Motion</p>
          <Choice
            label="Motion"
            wide
            value={step.motion}
            options={motions}
            onchoose={(motion: Motion) => bench.edit([{ edit: 'hand', step: step.id, motion }])}
          />
        </div>
      </div>
    {/if}

    <div>
      <p class="label">Wait after {step.active_s} s of work</p>
      <AmountField
        value={step.wait_s ?? 0}
        unit="s"
        label="Wait"
        step={10}
        most={7200}
        onset={(wait_s) =>
          bench.edit([
            {
              edit: 'wait',
              step: step.id,
              wait_s,
              // A longest wait that is shorter than the least one has no meaning any more.
              wait_at_most_s: (step.wait_at_most_s ?? 0) >= wait_s ? step.wait_at_most_s : null,
            },
          ])}
      />
      {#if step.wait_at_most_s}<p class="mt-1">Go on within {step.wait_at_most_s} s.</p>{/if}
    </div>

    {#if brought.length}
      <p class="label">
        Comes along in the {words.tool(step.tool ?? '')}: {brought
          .map((each) => `${Math.max(1, Math.round(each.share * 100))} % of the film is ${each.name}`)
          .join(', ')}.
      </p>
    {/if}

    <ReachLine {bench} {step} />

    {#each found as finding (keyOf(finding))}
      <FindingCard {bench} {finding} compact />
    {/each}

    <div>
      <h3 class="label">Why, on this face</h3>
      <ul class="list-disc pl-4">
        {#each step.why ?? [] as sentence (sentence)}<li>{sentence}</li>{/each}
      </ul>
    </div>
    {#if step.check}
      <div>
        <h3 class="label">Before going on, look for</h3>
        <p>{step.check}</p>
      </div>
    {/if}
    <div>
      <h3 class="label">Where</h3>
      <ZonesField {bench} {step} />
    </div>
    {#if (step.rules ?? []).some((id) => words.rule(id))}
      <div>
        <h3 class="label">Rules that speak here</h3>
        <ul class="flex flex-col gap-1">
          {#each step.rules ?? [] as id (id)}
            {@const rule = words.rule(id)}
            {#if rule}
              <li>
                <b>{rule.statement}</b>
                {rule.reason}{#if rule.other_view}<span class="label block"
                    >Another view: {rule.other_view}</span
                  >{/if}
              </li>
            {/if}
          {/each}
        </ul>
      </div>
    {/if}
  </section>
{:else}
  <section aria-label="Bare skin">
    <h2 class="text-lg font-semibold">Bare skin</h2>
    <p>
      The face as it was read, before the first layer.
      {#if bench.plan?.steps.length}Step forward with → to watch the base being built.{/if}
    </p>
  </section>
{/if}
