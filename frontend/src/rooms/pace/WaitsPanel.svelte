<script lang="ts">
  import { words } from '../../parts/vocabulary.svelte';
  import type { PaceState } from './pace.svelte';
  import Field from '../../parts/Field.svelte';

  /** How long each step rests, to be changed here: the plan is changed, and the score follows. */
  let { pace }: { pace: PaceState } = $props();
  const { low, high } = $derived(words.limit('wait_s'));

  function asked(event: Event & { currentTarget: HTMLInputElement }): number | null {
    const seconds = event.currentTarget.valueAsNumber;
    return Number.isFinite(seconds) ? Math.min(high, Math.max(low, Math.round(seconds))) : null;
  }
</script>

<details class="panel shrink-0 p-3">
  <summary class="heading cursor-pointer">Waits</summary>
  <p class="label my-1">
    In seconds, before anything goes over the step. A change is a change of the plan, and can be undone in the
    Layer room.
  </p>
  <ul class="grid gap-x-6 gap-y-1 md:grid-cols-2">
    {#each pace.score?.rests ?? [] as rest (rest.step)}
      <li class="flex flex-wrap items-center gap-2">
        <span class="w-40">{rest.number} {rest.words}</span>
        <Field
          label="at least"
          beside
          class="w-24 tabular-nums"
          outer="gap-1"
          type="number"
          min={low}
          max={high}
          step="5"
          aria-label="{rest.words} rests at least, seconds"
          value={rest.wait_s}
          onchange={(event) => void pace.rest(rest.step, asked(event) ?? rest.wait_s, rest.wait_at_most_s)}
        />
        {#if rest.wait_at_most_s !== null}
          <Field
            label="at most"
            beside
            class="w-24 tabular-nums"
            outer="gap-1"
            type="number"
            min={rest.wait_s}
            max={high}
            step="5"
            aria-label="{rest.words} rests at most, seconds"
            value={rest.wait_at_most_s}
            onchange={(event) => void pace.rest(rest.step, rest.wait_s, asked(event))}
          />
        {/if}
      </li>
    {/each}
  </ul>
</details>
