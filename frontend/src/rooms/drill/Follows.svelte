<script lang="ts">
  import Swatch from '../../parts/Swatch.svelte';
  import type { DrillMark, DrillState, Exercise } from './drill.svelte';

  /** What would follow from the answer, the right one, and one sentence to remember. */
  let { drill, asked, marked }: { drill: DrillState; asked: Exercise; marked: DrillMark } = $props();
  const named = $derived(new Map(asked.steps.map((each) => [each.id, each.says])));
  const told = $derived(
    marked.score >= 0.999
      ? 'Right.'
      : marked.score > 0
        ? `${Math.round(100 * marked.score)} % right.`
        : 'Not this time.',
  );
</script>

<section class="panel flex flex-col gap-2 p-4" aria-label="What follows" aria-live="polite">
  <h2 class="text-lg font-semibold">{told}</h2>
  <ul class="list-disc pl-5">
    {#each [...new Set(marked.follows)] as line (line)}<li>{line}</li>{/each}
  </ul>
  {#if marked.drop !== null}<p>
      Right: darker by {marked.drop.toFixed(1)} L*; you set {drill.drop.toFixed(1)}.
    </p>{/if}
  {#if marked.step}<p>The step: {named.get(marked.step)}.</p>{/if}
  {#if marked.order.length && marked.score < 0.999}
    <p class="label">One order in which every layer can lie:</p>
    <ol class="list-decimal pl-6">
      {#each marked.order as id (id)}<li>{named.get(id)}</li>{/each}
    </ol>
  {/if}
  {#if marked.looks.length}
    <ul class="flex flex-wrap gap-x-5 gap-y-1" aria-label="Through the foundation">
      {#each marked.looks as each (each.words)}
        <li class="flex items-center gap-1.5"><Swatch hex={each.hex} /> {each.words}</li>
      {/each}
    </ul>
  {/if}
  <div>
    <h3 class="label">To remember</h3>
    {#each marked.why as line (line)}<p class="first-of-type:font-semibold">{line}</p>{/each}
  </div>
</section>
