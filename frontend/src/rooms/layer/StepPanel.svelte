<script lang="ts">
  import { keyOf } from './marks';
  import ArrowDown from '@lucide/svelte/icons/arrow-down';
  import ArrowUp from '@lucide/svelte/icons/arrow-up';
  import Trash2 from '@lucide/svelte/icons/trash-2';
  import Swatch from '../../parts/Swatch.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import FindingCard from './FindingCard.svelte';
  import { itemOf, namesOf } from '../../plan/steps';
  import PortionCard from './PortionCard.svelte';
  import ProductSwap from './ProductSwap.svelte';
  import ReachLine from './ReachLine.svelte';
  import StepRules from './StepRules.svelte';
  import WaitField from './WaitField.svelte';
  import ZonesField from './ZonesField.svelte';
  import type { WorkbenchState } from './workbench.svelte';

  let { bench }: { bench: WorkbenchState } = $props();

  const step = $derived(bench.stage.step);
  const item = $derived(step ? itemOf(step) : null);
  const product = $derived(item ? bench.doc.plan?.products[item] : undefined);
  const taken = $derived(step && bench.doc.plan ? namesOf(step, bench.doc.plan.products) : '');
  const found = $derived(step ? bench.doc.findingsOf(step.id) : []);
  const brought = $derived((step && bench.doc.plan?.carried[bench.stage.at]) || []);
</script>

{#if step}
  <section aria-label="Chosen step" class="flex flex-col gap-3">
    <header class="flex items-start justify-between gap-2">
      <h2 class="text-lg font-semibold">{bench.stage.at + 1}. {words.step(step.kind)}</h2>
      <div class="no-print flex gap-1">
        <button
          class="btn px-2"
          aria-label="Earlier"
          title="Earlier (Alt+ArrowUp)"
          onclick={() => bench.doc.move(step, -1)}><ArrowUp size={14} aria-hidden="true" /></button
        >
        <button
          class="btn px-2"
          aria-label="Later"
          title="Later (Alt+ArrowDown)"
          onclick={() => bench.doc.move(step, 1)}><ArrowDown size={14} aria-hidden="true" /></button
        >
        <button
          class="btn px-2"
          aria-label="Take this step out"
          title="Take this step out (Delete)"
          onclick={() => bench.doc.edit([{ edit: 'remove', step: step.id }])}
          ><Trash2 size={14} aria-hidden="true" /></button
        >
      </div>
    </header>

    {#if product}
      <div class="flex items-center gap-2">
        {#if item && bench.doc.plan?.swatches[item]}<Swatch
            hex={bench.doc.plan.swatches[item] ?? ''}
            size={24}
          />{/if}
        <div class="min-w-0 grow">
          <p class="truncate font-semibold">{taken}</p>
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
    {#if step.take}
      <p>
        Take <b>{bench.doc.plan?.takes[bench.stage.at]}</b>.
      </p>
    {/if}
    {#each step.portions as portion, place (place)}
      <PortionCard {bench} {step} {portion} {place} />
    {/each}
    {#if step.then}
      <p>
        Then {words.motion(step.then.motion ?? '').toLowerCase()} with {words
          .tool(step.then.tool ?? '')
          .toLowerCase()}.
      </p>
    {/if}

    <WaitField {bench} {step} />

    {#if brought.length}
      <p class="label">
        Comes along in the tool: {brought
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
      <p>{step.why?.[0] ?? ''}</p>
      {#if (step.why ?? []).length > 1}
        <details>
          <summary class="label cursor-pointer">{(step.why ?? []).length - 1} more</summary>
          <ul class="list-disc pl-4">
            {#each (step.why ?? []).slice(1) as sentence (sentence)}<li>{sentence}</li>{/each}
          </ul>
        </details>
      {/if}
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
    <StepRules {step} />
  </section>
{:else}
  <section aria-label="Bare skin">
    <h2 class="text-lg font-semibold">Bare skin</h2>
    <p>
      The face as it was read, before the first layer.
      {#if bench.doc.plan?.steps.length}Step forward with → to watch the base being built.{/if}
    </p>
  </section>
{/if}
