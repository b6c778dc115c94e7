<script lang="ts">
  import type { HouseParameter } from '../../api/client';
  import type { HouseState } from './house.svelte';

  let { house, parameter }: { house: HouseState; parameter: HouseParameter } = $props();
  const uid = $props.id();
  const decided = $derived(parameter.value !== parameter.default);
  const grain = $derived((parameter.high - parameter.low) / 100);
  const step = $derived(grain >= 1 ? 1 : Number(grain.toPrecision(1)));
  let shown = $derived(parameter.value);

  function figure(value: number): string {
    return String(Number(value.toPrecision(4)));
  }
</script>

<div class="py-1">
  <div class="flex flex-wrap items-baseline gap-x-2">
    <label for={uid} class="first-letter:uppercase">{parameter.words}</label>
    <b>{figure(shown)} {parameter.unit}</b>
    {#if decided}
      <span class="label">the book has {figure(parameter.default)}</span>
      <button class="btn h-control-xs px-1.5 text-xs" onclick={() => house.resetParameter(parameter)}
        >As in the book<span class="sr-only">: {parameter.words}</span></button
      >
    {/if}
  </div>
  <div class="flex items-center gap-2">
    <span class="label w-12 text-right">{figure(parameter.low)}</span>
    <input
      id={uid}
      type="range"
      class="grow accent-[var(--accent)]"
      min={parameter.low}
      max={parameter.high}
      {step}
      value={parameter.value}
      aria-valuetext="{figure(shown)} {parameter.unit}"
      oninput={(event) => (shown = event.currentTarget.valueAsNumber)}
      onchange={(event) => house.decideParameter(parameter, event.currentTarget.valueAsNumber)}
    />
    <span class="label w-12">{figure(parameter.high)}</span>
  </div>
  <p class="label">
    {parameter.why}{parameter.source === 'house' ? '' : ` Source: ${parameter.source}.`}
  </p>
  {#if decided}
    <input
      class="field mt-1 h-control-s w-full text-xs"
      placeholder="Why is it decided so here?"
      aria-label="Why {parameter.words} is decided so here"
      maxlength="300"
      value={parameter.note}
      onchange={(event) => house.decideParameter(parameter, parameter.value, event.currentTarget.value)}
    />
  {/if}
</div>
