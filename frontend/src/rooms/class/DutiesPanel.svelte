<script lang="ts">
  import type { ClassShown } from '../../api/client';

  /** What is done before, during and after the class, by the clock. */
  let { found }: { found: ClassShown } = $props();
  const lists = $derived([
    { words: 'Before the class', duties: found.before_class },
    { words: 'While it runs', duties: found.during_class },
    { words: 'After it', duties: found.after_class },
  ]);
</script>

<div class="grid gap-2 lg:grid-cols-3">
  {#each lists as list (list.words)}
    <section class="panel p-2.5" aria-label={list.words}>
      <h2 class="heading">{list.words}</h2>
      {#if !list.duties.length}<p class="label">Nothing: everybody has a station.</p>{/if}
      <dl>
        {#each list.duties as each, place (place)}
          {#if each.when !== list.duties[place - 1]?.when}
            <dt class="mt-1 border-t border-line pt-1 font-semibold tabular-nums">{each.when}</dt>
          {/if}
          <dd class="break-words">{each.says}</dd>
        {/each}
      </dl>
    </section>
  {/each}
</div>
<p class="label mt-1">Local hygiene codes and licensed practice come first. Nothing here is a diagnosis.</p>
