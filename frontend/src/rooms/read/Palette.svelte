<script lang="ts">
  import Eraser from '@lucide/svelte/icons/eraser';
  import type { Condition } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import type { ReadState } from './read.svelte';

  interface Props {
    read: ReadState;
    /** The layer shown: a group of conditions, "all", or "brush" for the chosen condition alone. */
    layer: string;
  }

  let { read, layer = $bindable() }: Props = $props();
  const groups = $derived(words.all?.condition_groups ?? []);
  const preset = $derived(words.all?.presets.find((each) => each.id === read.face?.record.preset));
  let looked = $state<string | null>(null);
  const shown = $derived(words.all?.presets.find((each) => each.id === looked) ?? preset);

  function choose(condition: Condition) {
    read.painting.brush = { ...read.painting.brush, condition, erase: false };
    if (layer === 'all') return;
    layer = groups.find((group) => group.conditions.includes(condition))?.words ?? 'brush';
  }
</script>

<section aria-label="Brush" class="panel p-3">
  <div class="flex flex-wrap items-center gap-x-4 gap-y-2">
    <div class="flex flex-wrap items-center gap-1" role="group" aria-label="Severity">
      {#each [1, 2, 3] as severity (severity)}
        <button
          class="btn {!read.painting.brush.erase && read.painting.brush.severity === severity
            ? 'btn-main'
            : ''}"
          aria-pressed={!read.painting.brush.erase && read.painting.brush.severity === severity}
          title="Severity {severity} ({severity})"
          onclick={() => (read.painting.brush = { ...read.painting.brush, severity, erase: false })}
          >{severity} {words.rank(severity)}</button
        >
      {/each}
      <button
        class="btn {!read.painting.brush.erase && read.painting.brush.severity === 0 ? 'btn-main' : ''}"
        aria-pressed={!read.painting.brush.erase && read.painting.brush.severity === 0}
        title="Take this condition away (0)"
        onclick={() => (read.painting.brush = { ...read.painting.brush, severity: 0, erase: false })}
        >0 none</button
      >
      <button
        class="btn {read.painting.brush.erase ? 'btn-main' : ''}"
        aria-pressed={read.painting.brush.erase}
        title="Take everything on a zone away (e)"
        onclick={() => (read.painting.brush = { ...read.painting.brush, erase: !read.painting.brush.erase })}
        ><Eraser size={15} aria-hidden="true" />Erase</button
      >
    </div>
    <label class="flex items-center gap-1.5" title="Both sides (b)"
      ><input type="checkbox" class="accent-[var(--accent)]" bind:checked={read.painting.bothSides} />Both
      sides</label
    >
    <div class="flex gap-1">
      <button class="btn" onclick={() => read.painting.mirror('r')}>Right onto left</button>
      <button class="btn" onclick={() => read.painting.mirror('l')}>Left onto right</button>
    </div>
  </div>
  <div class="mt-3 grid gap-x-4 gap-y-2 sm:grid-cols-2">
    {#each groups as group (group.words)}
      <div role="group" aria-label={group.words}>
        <p class="label">{group.words}</p>
        <div class="flex flex-wrap gap-1">
          {#each group.conditions as condition (condition)}
            {@const on = !read.painting.brush.erase && read.painting.brush.condition === condition}
            <button
              class="btn h-control-s px-1.5 text-xs first-letter:uppercase {on
                ? 'border-accent bg-accent-soft font-semibold'
                : ''}"
              aria-pressed={on}
              onclick={() => choose(condition)}>{words.condition(condition)}</button
            >
          {/each}
        </div>
      </div>
    {/each}
  </div>
</section>

<section aria-label="What the map shows" class="panel flex flex-wrap items-center gap-3 p-3">
  <span>The map shows</span>
  <Choice
    label="Layer of the reading"
    value={layer}
    options={[
      { id: 'all', words: 'Everything read' },
      { id: 'brush', words: `Only ${words.condition(read.painting.brush.condition)}` },
      ...groups.map((group) => ({ id: group.words, words: group.words })),
    ]}
    onchoose={(next) => (layer = next)}
  />
  <span class="label">Hatching and number give the severity.</span>
</section>

<section aria-label="Preset" class="panel p-3">
  <h2 class="heading">Start from a preset</h2>
  <div class="mt-1 flex flex-wrap gap-1">
    {#each words.all?.presets ?? [] as each (each.id)}
      <button
        class="btn h-control-s {each.id === preset?.id ? 'border-accent bg-accent-soft font-semibold' : ''}"
        aria-pressed={each.id === preset?.id}
        onmouseenter={() => (looked = each.id)}
        onmouseleave={() => (looked = null)}
        onfocus={() => (looked = each.id)}
        onblur={() => (looked = null)}
        onclick={() => read.painting.choosePreset(each.id)}>{each.id.replaceAll('_', '-')}</button
      >
    {/each}
  </div>
  {#if shown}
    <p class="label mt-2">
      {shown.id === preset?.id ? 'Sets' : 'Would set'} ({shown.words}); what you painted stays over it:
    </p>
    <ul class="min-h-16">
      {#each shown.sets as line (line)}<li>{line}</li>{:else}<li>Nothing: even, balanced skin.</li>{/each}
    </ul>
  {/if}
</section>
