<script lang="ts">
  import type { BookRule } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import SeverityMark from '../layer/SeverityMark.svelte';
  import type { HouseState } from './house.svelte';
  import ParameterSlider from './ParameterSlider.svelte';

  let { house, rule, chosen }: { house: HouseState; rule: BookRule; chosen: boolean } = $props();
  const severity = $derived(rule.decision?.severity ?? rule.severity);
  const off = $derived(rule.decision?.off ?? false);
  const speaks = $derived(house.speaks?.[rule.id] ?? 0);
  const parameters = $derived(house.parametersOf(rule));
  let card = $state<HTMLElement>();
  const severities = [
    { id: 'stop', words: 'Stop' },
    { id: 'problem', words: 'Problem' },
    { id: 'advice', words: 'Advice' },
  ] as const;

  $effect(() => {
    if (chosen) card?.scrollIntoView({ block: 'center' });
  });
</script>

<article
  bind:this={card}
  aria-label={rule.statement}
  class="panel p-3 {chosen ? 'border-accent' : ''} {off ? 'opacity-75' : ''}"
>
  <div class="flex flex-wrap items-start gap-x-3 gap-y-1">
    <div class="min-w-64 flex-1">
      <h3 class="flex items-center gap-1.5 font-semibold">
        <SeverityMark {severity} size={14} />{rule.statement}
      </h3>
      <p>{rule.reason}</p>
      {#if rule.other_view}<p class="label">Another view: {rule.other_view}</p>{/if}
      {#if rule.schools.length}
        <p class="label">
          Speaks in {rule.schools.map((school) => words.school(school).toLowerCase()).join(', ')}.
        </p>
      {/if}
      {#if house.speaks}
        <p class="label">
          {off
            ? 'Switched off: it does not speak.'
            : speaks
              ? `Speaks ${speaks === 1 ? 'once' : `${speaks} times`} in ${house.planName}.`
              : `Kept in ${house.planName}.`}
        </p>
      {/if}
    </div>
    <div class="flex items-center gap-2">
      <Choice
        label="Severity"
        value={severity}
        options={[...severities]}
        onchoose={(next) => house.decideRule(rule, { severity: next === rule.severity ? null : next })}
      />
      <label class="flex items-center gap-1.5 whitespace-nowrap"
        ><input
          type="checkbox"
          class="accent-[var(--accent)]"
          checked={!off}
          onchange={(event) => house.decideRule(rule, { off: !event.currentTarget.checked })}
        />On</label
      >
    </div>
  </div>
  {#if rule.decision}
    <div class="mt-1 flex gap-2">
      <input
        class="field h-control-s grow text-xs"
        placeholder="Why is it decided so here?"
        aria-label="Why this rule is decided so here"
        maxlength="300"
        value={rule.decision.note}
        onchange={(event) => house.decideRule(rule, { note: event.currentTarget.value })}
      />
      <button class="btn h-control-s" onclick={() => house.resetRule(rule)}>As in the book</button>
    </div>
    <p class="label">
      Decided here{rule.decision.severity ? `: ${rule.severity} in the book` : ''}{off
        ? ': on in the book'
        : ''}.
    </p>
  {/if}
  {#if parameters.length}
    <details class="mt-1" open={parameters.some((each) => each.value !== each.default) || chosen}>
      <summary class="label cursor-pointer"
        >{parameters.length === 1 ? '1 number' : `${parameters.length} numbers`} it asks about</summary
      >
      {#each parameters as parameter (parameter.name)}<ParameterSlider {house} {parameter} />{/each}
    </details>
  {/if}
</article>
