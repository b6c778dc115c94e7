<script lang="ts">
  import Face from '../../parts/face/Face.svelte';
  import Swatch from '../../parts/Swatch.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import type { DrillState, Exercise } from './drill.svelte';

  /** What is asked, with what is looked at, and the ways to answer it. */
  let { drill, asked }: { drill: DrillState; asked: Exercise } = $props();
  let pointed = $state<Exercise['zones'][number] | null>(null);
  /** The colours of the face that is shown, by zone. */
  const drawn = $derived(
    asked.face && asked.proportions && { colours: asked.face, proportions: asked.proportions },
  );
  const fixed = $derived(drill.marked !== null);
  const named = $derived(new Map(asked.steps.map((each) => [each.id, each.says])));
  const drop = $derived(words.limit('drop_l'));

  function standing(letter: string): string {
    if (!drill.marked)
      return drill.choice === letter ? 'border-accent bg-accent-soft' : 'border-line bg-well';
    if (drill.marked.choice === letter) return 'border-accent bg-accent-soft';
    return drill.choice === letter ? 'border-stop bg-well' : 'border-line bg-well';
  }
</script>

<section class="panel flex flex-col gap-3 p-4" aria-label="Question">
  <p class="label">{asked.words}, level {asked.level}</p>
  <h2 class="text-xl font-semibold text-balance">{asked.asks}</h2>
  {#if asked.measures.length}<p>This face: {asked.measures.join(', ')}.</p>{/if}
  {#if asked.reads.length}
    <details open={asked.reads.length < 5}>
      <summary class="label cursor-pointer">What was read on this face</summary>
      <ul class="list-disc pl-5">
        {#each asked.reads as line (line)}<li>{line}</li>{/each}
      </ul>
    </details>
  {/if}
  {#if asked.skin && asked.complexion}
    <p class="flex flex-wrap items-center gap-3">
      <span class="flex items-center gap-1.5"><Swatch hex={asked.skin} /> the zone</span>
      <span class="flex items-center gap-1.5"><Swatch hex={asked.complexion} /> the complexion</span>
    </p>
  {/if}
  {#if asked.by_colour && !drill.marked}
    <p class="label flex flex-wrap items-center gap-2">
      This one is judged by colour. If you see reds and greens alike, it can be answered from the words, or
      such questions set aside.
      {#if !drill.session?.title}<button
          class="btn"
          disabled={drill.busy}
          onclick={() => void drill.next(true)}>Set them aside</button
        >{/if}
    </p>
  {/if}
  {#if asked.in_words.length}
    <details>
      <summary class="label cursor-pointer">The colours in words</summary>
      <ul class="list-disc pl-5">
        {#each asked.in_words as line (line)}<li>{line}</li>{/each}
      </ul>
    </details>
  {/if}
  {#if asked.lower.length}
    <dl class="grid gap-2 sm:grid-cols-2">
      <div>
        <dt class="label">On the skin</dt>
        <dd>{asked.lower.join(', ')}</dd>
      </div>
      <div>
        <dt class="label">Over it</dt>
        <dd>{asked.upper.join(', ')}</dd>
      </div>
    </dl>
  {/if}
  {#if drawn && asked.kind === 'diagnose'}
    <div class="mx-auto h-64 w-56">
      <Face label="The finished face" {drawn} />
    </div>
  {/if}
  {#if asked.zones.length && drawn}
    <div class="grid gap-3 sm:grid-cols-[16rem_1fr]">
      <div class="h-80">
        <Face
          label="Paint where it is needed"
          {drawn}
          shown={{ grade: (zone) => (drill.zones.includes(zone) ? 2 : 0) }}
          pressed={{
            paint: {
              pointed,
              told: (zone) =>
                `${words.zone(zone)}: ${asked.zones.includes(zone) ? (drill.zones.includes(zone) ? 'painted' : 'bare') : 'not asked about'}`,
              onpoint: (zone) => (pointed = zone),
              ontouch: (zone) => drill.paint(zone),
              onpaint: (zone) => drill.paint(zone),
            },
          }}
        />
      </div>
      <fieldset class="grid content-start gap-1 sm:grid-cols-2">
        <legend class="label">Places that are asked about</legend>
        {#each asked.zones as zone (zone)}
          <label class="flex min-h-control-l items-center gap-2"
            ><input
              type="checkbox"
              class="size-5 accent-[var(--accent)]"
              disabled={fixed}
              checked={drill.zones.includes(zone)}
              onchange={() => drill.paint(zone)}
            />{words.zone(zone)}{#if drill.marked}<span class="label"
                >{drill.marked.zones.includes(zone) ? 'needed' : 'bare'}</span
              >{/if}</label
          >
        {/each}
      </fieldset>
    </div>
  {/if}
  {#if asked.values.length}
    <fieldset class="flex flex-wrap gap-x-4 gap-y-1">
      <legend class="label">The first powder is</legend>
      {#each asked.values as each (each.id)}
        <label class="flex min-h-control-l items-center gap-2"
          ><input
            type="radio"
            class="size-5 accent-[var(--accent)]"
            name="value"
            disabled={fixed}
            checked={drill.value === each.id}
            onchange={() => (drill.value = each.id)}
          />{each.says}{#if drill.marked?.value === each.id}<b>right</b>{/if}</label
        >
      {/each}
    </fieldset>
  {/if}
  {#if asked.kind === 'order'}
    <ol class="flex flex-col gap-1" aria-label="Your order">
      {#each drill.order as id, place (id)}
        <li class="flex items-center gap-2 card px-2 py-1">
          <span class="w-5 text-right tabular-nums">{place + 1}</span>
          <span class="min-w-0 grow">{named.get(id)}</span>
          <button
            class="btn h-control-l"
            disabled={fixed || place === 0}
            aria-label="Earlier: {named.get(id)}"
            onclick={() => drill.move(id, -1)}>↑</button
          >
          <button
            class="btn h-control-l"
            disabled={fixed || place === drill.order.length - 1}
            aria-label="Later: {named.get(id)}"
            onclick={() => drill.move(id, 1)}>↓</button
          >
        </li>
      {/each}
    </ol>
  {/if}
  {#if asked.kind === 'fault'}
    <fieldset class="flex flex-col gap-1">
      <legend class="label">Which step?</legend>
      {#each asked.steps as each, place (each.id)}
        <label class="flex items-baseline gap-2 card px-2 py-1"
          ><input
            type="radio"
            class="accent-[var(--accent)]"
            name="step"
            disabled={fixed}
            checked={drill.step === each.id}
            onchange={() => (drill.step = each.id)}
          /><span class="w-5 text-right tabular-nums">{place + 1}</span><span
            >{each.says}{#if each.detail}<span class="label block">{each.detail}</span>{/if}</span
          ></label
        >
      {/each}
    </fieldset>
  {/if}
  {#if asked.kind === 'depth'}
    <label class="flex flex-col gap-1"
      ><span>Darker than the skin by <b class="tabular-nums">{drill.drop.toFixed(1)} L*</b></span>
      <input
        type="range"
        class="accent-[var(--accent)]"
        disabled={fixed}
        min={drop.low}
        max={drop.high}
        step="0.5"
        bind:value={drill.drop}
      /></label
    >
  {/if}
  {#if asked.choices.length}
    <div class="flex flex-col gap-1.5" role="radiogroup" aria-label="Choices">
      {#each asked.choices as each (each.id)}
        {@const left = drill.marked?.leaves.find((row) => row.choice === each.id)}
        <button
          role="radio"
          aria-checked={drill.choice === each.id}
          disabled={fixed}
          class="flex min-h-touch items-center gap-3 rounded-control border px-3 py-1.5 text-left {standing(
            each.id,
          )}"
          onclick={() => (drill.choice = each.id)}
        >
          <span class="font-semibold uppercase">{each.id}</span>
          <span class="grow">{each.says}</span>
          {#if left}<span class="label flex items-center gap-1.5"
              ><Swatch hex={left.hex} /> leaves ΔE00 {left.de.toFixed(1)}</span
            >{/if}
          {#if drill.marked?.choice === each.id}<span class="font-semibold">right</span>
          {:else if drill.marked && drill.choice === each.id}<span class="font-semibold">yours</span>{/if}
        </button>
      {/each}
    </div>
  {/if}
</section>
