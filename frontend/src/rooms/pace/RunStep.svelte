<script lang="ts">
  import type { Block } from '../../api/client';
  import Face from '../../parts/face/Face.svelte';
  import Swatch from '../../parts/Swatch.svelte';
  import { clock } from './clock';
  import { worked } from './run-log';
  import type { RunState } from './run.svelte';

  /** The block in hand, to be read across a room: what, where, how much, how; what to wait for, and what can be done meanwhile. */
  let { run, block }: { run: RunState; block: Block } = $props();
  const colours = $derived(
    block.hex ? Object.fromEntries(block.zones.map((zone) => [zone, block.hex!])) : {},
  );
  const taken = $derived(worked(run.log, run.from, run.now));
  const left = $derived(run.due ? run.due.at - run.now : null);
</script>

<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
<section
  class="panel flex min-h-0 grow flex-col gap-3 overflow-auto p-3 md:grid md:grid-cols-[minmax(0,1fr)_minmax(16rem,26%)] md:p-5"
  aria-label="In hand"
  tabindex="0"
>
  <div class="min-w-0">
    <p class="label">Step {block.number}{block.side ? `, ${block.side} side` : ''}</p>
    <h1 class="text-3xl leading-tight font-semibold md:text-6xl">{block.title}</h1>
    {#if block.products.length}
      <p class="mt-2 flex flex-wrap items-center gap-2 text-xl md:text-3xl">
        {#if block.hex}<Swatch hex={block.hex} size={22} />{/if}
        {block.products.join(' and ')}{block.take ? `, ${block.take}` : ''}
      </p>
    {/if}
    {#each block.cues as cue (cue)}<p class="mt-2 text-xl font-semibold md:text-2xl">{cue}</p>{/each}
    {#each block.clean as clean (clean)}<p class="mt-2 text-lg md:text-xl">{clean}</p>{/each}
    <ul class="mt-3 flex flex-col gap-1 text-lg md:text-3xl md:leading-snug">
      {#each block.hands as hand (hand)}<li>{hand}</li>{/each}
    </ul>
    {#if block.check}<p class="mt-3 text-base md:text-xl"><b>Look for:</b> {block.check}</p>{/if}
    <p class="label mt-2">{block.why}</p>
  </div>
  <div class="flex shrink-0 flex-col items-center gap-2">
    {#if block.zones.length}
      <div class="h-40 md:h-[min(42vh,22rem)]">
        <Face
          class="h-full w-auto shrink-0"
          label="Where: {block.where}"
          drawn={{}}
          shown={{ places: { zones: block.zones, colours } }}
        />
      </div>
    {/if}
    {#if run.waits > 0}
      <p class="text-center" role="timer" aria-label="Still to wait">
        <span class="label block md:text-base">Wait</span>
        <span class="block text-5xl font-semibold tabular-nums md:text-7xl"
          >{clock(Math.ceil(run.waits))}</span
        >
        <span class="label">{run.ready?.says ?? ''}</span>
      </p>
    {:else}
      <p class="text-center" role="timer" aria-label="At work">
        <span class="label block md:text-base">At work</span>
        <span class="block text-5xl font-semibold tabular-nums md:text-7xl">{clock(taken)}</span>
        <span class="label md:text-base">of about {clock(block.seconds)}</span>
      </p>
    {/if}
    {#if left !== null}
      <p class="text-center {left < 0 ? 'font-semibold' : ''}">
        {left >= 0 ? `Begin within ${clock(left)}` : `${clock(-left)} too late`}
        <span class="label block">{run.due?.says ?? ''}</span>
      </p>
    {/if}
  </div>
</section>

<section class="panel shrink-0 p-2" aria-label="What comes next">
  {#if run.meanwhile.length}
    <p class="label">In the wait</p>
    <ul class="flex flex-wrap gap-2">
      {#each run.meanwhile as each (each.id)}
        <li>
          <button class="btn h-touch px-3 text-base" onclick={() => run.choose(each.id)}
            >{each.title}, {clock(each.seconds)}</button
          >
        </li>
      {/each}
    </ul>
  {/if}
  {#if run.makeReady}<p class="md:text-lg"><span class="label">Make ready</span> {run.makeReady}</p>{/if}
  <p class="md:text-lg">
    <span class="label">Next</span>
    {run.next ? `${run.next.title} ${run.next.where}` : 'Nothing more: that was the last step.'}
  </p>
</section>
