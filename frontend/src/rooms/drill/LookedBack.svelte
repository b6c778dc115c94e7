<script lang="ts">
  import type { DrillState, SessionRecap } from './drill.svelte';

  /** A session looked back on. */
  let { drill, recap }: { drill: DrillState; recap: SessionRecap } = $props();
  const percent = (share: number) => `${Math.round(100 * share)} %`;
</script>

<section class="panel flex flex-col gap-2 p-4" aria-label="Looked back">
  <h2 class="text-xl font-semibold">
    {#if recap.answered}{recap.answered === 1 ? 'One exercise' : `${recap.answered} exercises`}, {percent(
        recap.score,
      )} right{:else}Nothing was answered{/if}
  </h2>
  <p>
    {recap.saved ? 'It is kept.' : 'Nothing of it is kept.'}
    {recap.fits ? `${recap.fits}.` : ''}
  </p>
  {#if recap.improved.length}
    <h3 class="heading">Better than before</h3>
    <ul class="list-disc pl-5">
      {#each recap.improved as each (each.words)}<li>
          {each.words}: {percent(each.before)} right before, {percent(each.since)} today
        </li>{/each}
    </ul>
  {/if}
  {#if recap.coming.length}
    <h3 class="heading">Comes next</h3>
    <ul class="list-disc pl-5">
      {#each recap.coming as each (each)}<li>{each}</li>{/each}
    </ul>
  {/if}
  <div>
    <button
      class="btn btn-main h-touch px-5"
      onclick={() => ((drill.recap = null), void drill.opening.load())}>Another session</button
    >
  </div>
</section>
{#if recap.review.length}
  <section class="panel p-4" aria-label="Every exercise">
    <h3 class="heading mb-1">Every exercise</h3>
    <ol class="flex flex-col">
      {#each recap.review as each, place (place)}
        <li class="border-t border-line py-2">
          <p class="font-semibold">{place + 1}. {each.asks}</p>
          <p>
            <span class="label"
              >{each.score >= 0.999 ? 'Right' : each.score ? `${percent(each.score)} right` : 'Not right'};
              you said:</span
            >
            {each.given || 'nothing'}
          </p>
          {#if each.score < 0.999}<p><span class="label">Right:</span> {each.right}</p>{/if}
          <p class="text-quiet">{each.why[0] ?? ''}</p>
        </li>
      {/each}
    </ol>
  </section>
{/if}
