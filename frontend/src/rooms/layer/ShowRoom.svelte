<script lang="ts">
  import { itemOf, namesOf } from '../../plan/steps';
  import ArrowLeft from '@lucide/svelte/icons/arrow-left';
  import ArrowRight from '@lucide/svelte/icons/arrow-right';
  import X from '@lucide/svelte/icons/x';
  import Swatch from '../../parts/Swatch.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import FacePanel from './FacePanel.svelte';
  import Section from './Section.svelte';
  import type { WorkbenchState } from './workbench.svelte';

  /** The plan shown to a class, on a projector: section and face as large as they go, one step at a time in large type. */
  let { bench, onleave }: { bench: WorkbenchState; onleave: () => void } = $props();
  const plan = $derived(bench.doc.plan!);
  const step = $derived(bench.stage.step);
  const product = $derived(step ? namesOf(step, plan.products) : '');
  const swatch = $derived(plan.swatches[(step && itemOf(step)) ?? '']);
  const says = $derived(plan.portions[bench.stage.at] ?? []);
</script>

<svelte:window
  onkeydown={(event) => {
    if (event.key === 'Escape' && !document.querySelector('[role="dialog"], [role="listbox"]')) onleave();
  }}
/>

<main
  class="flex min-h-0 grow flex-col gap-2 overflow-auto p-2 md:grid md:grid-rows-[minmax(0,1fr)_auto]"
  aria-label="Shown to a class"
>
  <div class="grid shrink-0 gap-2 md:min-h-0 md:grid-cols-[minmax(0,2fr)_minmax(16rem,1fr)]">
    <div class="panel min-h-0 overflow-auto p-3">
      <Section
        {plan}
        at={bench.stage.at}
        pointed={bench.stage.pointed}
        onchoose={(index) => bench.stage.choose(index)}
        onpoint={(zone) => (bench.stage.pointed = zone)}
        spare
      />
    </div>
    <div class="panel flex h-96 flex-col p-3 md:h-auto md:min-h-72"><FacePanel {bench} big /></div>
  </div>
  <section
    class="panel flex shrink-0 flex-wrap items-start gap-2 p-3 md:flex-nowrap md:gap-4 md:p-4"
    aria-label="The step shown"
    aria-live="polite"
  >
    <button
      class="btn h-touch-xl w-14 justify-center"
      aria-label="Layer before"
      disabled={bench.stage.at < 0}
      onclick={() => bench.stage.choose(bench.stage.at - 1)}
      ><ArrowLeft size={28} aria-hidden="true" /></button
    >
    <div
      class="order-last w-full leading-snug md:order-none md:min-h-28 md:w-auto md:min-w-0 md:grow {says.length >
      2
        ? 'md:text-lg'
        : 'md:text-xl'}"
    >
      {#if step}
        <h2 class="flex flex-wrap items-center gap-3 text-3xl font-semibold">
          {bench.stage.at + 1}. {words.step(step.kind)}
          {#if product}
            {#if swatch}<Swatch hex={swatch} size={30} />{/if}
            <span class="text-xl font-normal md:text-2xl">{product}</span>
          {/if}
        </h2>
        {#each says as portion, place (place)}
          <p>
            {#if place === 0 && step.take}Take {step.take.words}.{/if} <span>{portion.does}</span>
          </p>
        {/each}
        {#if step.then}<p>
            Then {words.motion(step.then.motion ?? '').toLowerCase()}, {words
              .tool(step.then.tool ?? '')
              .toLowerCase()}.
          </p>{/if}
        {#if says.length <= 2}<p>{(step.why ?? [])[0] ?? ''}</p>{/if}
        <p>
          {#if step.wait_s}<b>Then wait {step.wait_s} s.</b>{/if}
          {#if step.check}<b>Look for:</b> {step.check}{/if}
        </p>
      {:else}
        <h2 class="text-3xl font-semibold">Bare skin</h2>
        <p>The face as it was read, before the first layer.</p>
      {/if}
    </div>
    <button
      class="btn h-touch-xl w-14 justify-center"
      aria-label="Next layer"
      disabled={bench.stage.at >= plan.steps.length - 1}
      onclick={() => bench.stage.choose(bench.stage.at + 1)}
      ><ArrowRight size={28} aria-hidden="true" /></button
    >
    <button class="btn" title="Back to the workbench (Escape)" onclick={onleave}
      ><X size={16} aria-hidden="true" />Stop showing</button
    >
  </section>
</main>
