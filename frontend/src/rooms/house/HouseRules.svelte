<script lang="ts">
  import { onMount } from 'svelte';
  import Download from '@lucide/svelte/icons/download';
  import RotateCcw from '@lucide/svelte/icons/rotate-ccw';
  import Choice from '../../parts/Choice.svelte';
  import RoomBar from '../../parts/RoomBar.svelte';
  import { shortcuts } from '../../parts/shortcuts.svelte';
  import { p, route } from '../../router';
  import { HouseState } from './house.svelte';
  import ParameterSlider from './ParameterSlider.svelte';
  import RuleCard from './RuleCard.svelte';
  import TakenOver from './TakenOver.svelte';
  import Awaited from '../../parts/Awaited.svelte';
  import { whenever } from '../../parts/whenever.svelte';

  const query = $derived(new URLSearchParams(route.search as Record<string, string>));
  const chosen = $derived(query.get('rule'));
  const planId = $derived(query.get('plan'));
  const house = $derived(new HouseState(planId));
  const rules = $derived(house.rules);
  const decided = $derived(
    (house.book?.rules.filter((rule) => rule.decision).length ?? 0) +
      (house.book?.parameters.filter((each) => each.value !== each.default).length ?? 0) +
      (house.book?.taken_over.filter((each) => each.standing).length ?? 0),
  );
  let search = $state<HTMLInputElement>();
  const byFamily = $derived(
    [...house.families]
      .sort((one, other) => house.speakingIn(other) - house.speakingIn(one))
      .map((family) => ({ family, rules: rules.filter((rule) => rule.family === family) }))
      .filter((group) => group.rules.length),
  );

  whenever(
    () => house.opening,
    (opening) => void opening.load(),
  );

  onMount(() => {
    return shortcuts.declare([{ keys: '/', does: 'Search the rule book', run: () => search?.focus() }]);
  });
</script>

<svelte:head><title>House rules – Nabrel</title></svelte:head>

<div class="flex h-full flex-col">
  <RoomBar room="house">
    <h1 class="sr-only">House rules</h1>
    {#if planId && house.planName}
      <a class="btn" href={p('/plans/:id', { params: { id: planId } })}>Back to {house.planName}</a>
    {/if}
    <a class="btn" href="/api/house/file" download
      ><Download size={15} aria-hidden="true" />Export decisions</a
    >
    <button class="btn" disabled={!decided} onclick={() => house.resetAll()}
      ><RotateCcw size={15} aria-hidden="true" />Reset all</button
    >
  </RoomBar>
  {#if house.opening.failed || !house.book}
    <Awaited
      of={house.opening}
      waits="Opening the rule book…"
      says="The rule book could not be opened"
      room
    />
  {:else}
    <main class="min-h-0 grow overflow-auto">
      <div class="mx-auto grid max-w-6xl items-start gap-3 p-3 lg:grid-cols-[13rem_minmax(0,1fr)]">
        <nav aria-label="Families" class="panel hidden p-1.5 lg:sticky lg:top-3 lg:block">
          <ul>
            {#each house.families as family (family)}
              {@const speaking = house.speakingIn(family)}
              <li>
                <button
                  class="flex w-full justify-between gap-2 rounded-control px-2 py-1 text-left first-letter:uppercase hover:bg-well {house.family ===
                  family
                    ? 'bg-well font-semibold'
                    : ''}"
                  aria-pressed={house.family === family}
                  onclick={() => (house.family = house.family === family ? 'all' : family)}
                  ><span class="first-letter:uppercase">{family}</span>{#if speaking}<b
                      title="Rules that speak in the open plan">▲ {speaking}</b
                    >{/if}</button
                >
              </li>
            {/each}
          </ul>
        </nav>
        <div class="flex min-w-0 flex-col gap-3">
          <div class="panel sticky top-0 z-10 flex flex-wrap items-center gap-3 p-2.5">
            <input
              bind:this={search}
              bind:value={house.sought}
              type="search"
              class="field min-w-48 grow"
              placeholder="Search rules, reasons and numbers"
              aria-label="Search the rule book"
            />
            <Choice
              label="Family"
              value={house.family}
              options={[
                { id: 'all', words: 'Every family' },
                ...house.families.map((family) => ({ id: family, words: family })),
              ]}
              onchoose={(family) => (house.family = family)}
            />
            <label class="flex items-center gap-1.5"
              ><input
                type="checkbox"
                class="accent-[var(--accent)]"
                bind:checked={house.decidedOnly}
              />Decided here only</label
            >
            <p class="label w-full" aria-live="polite">
              {rules.length} of {house.book.rules.length} rules{decided
                ? `, ${decided} ${decided === 1 ? 'thing' : 'things'} decided otherwise here`
                : ', all as in the book'}. Plans and checks follow what is decided from the next one on.
            </p>
          </div>
          {#if house.book.taken_over.length && house.family === 'all' && !house.sought}
            <section class="panel p-3" aria-label="Learnt from wear">
              <h2 class="text-base font-semibold">Learnt from wear</h2>
              <TakenOver taken={house.book.taken_over} onundo={(number) => house.undo(number)} />
            </section>
          {/if}
          {#each byFamily as group (group.family)}
            <section aria-label={group.family} class="flex flex-col gap-2">
              <h2 class="text-base font-semibold first-letter:uppercase">{group.family}</h2>
              {#each group.rules as rule (rule.id)}
                <RuleCard {house} {rule} chosen={rule.id === chosen} />
              {/each}
            </section>
          {/each}
          {#each house.family === 'all' ? house.otherParameters : [] as group (group.subject)}
            <details class="panel p-3">
              <summary class="cursor-pointer font-semibold">{group.subject}</summary>
              {#each group.parameters as parameter (parameter.name)}<ParameterSlider
                  {house}
                  {parameter}
                />{/each}
            </details>
          {/each}
          {#if !rules.length}
            <p class="panel p-3">No rule says that. Clear the search, or choose every family.</p>
          {/if}
          <p class="label">
            Safety rules can be decided otherwise too, for teaching; local hygiene codes and licensed practice
            still come first. Nothing here is a diagnosis.
          </p>
        </div>
      </div>
    </main>
  {/if}
</div>
