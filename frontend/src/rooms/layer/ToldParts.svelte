<script lang="ts">
  import type { Telling } from '../../api/client';

  /** The plan told in words: each part under its title, the steps numbered through all chapters. */
  let { told }: { told: Telling } = $props();

  /** The number that a part of the steps begins with. */
  function firstNumber(at: number): number {
    const earlier = told.parts.slice(0, at).filter((part) => part.numbered);
    return 1 + earlier.reduce((sum, part) => sum + part.lines.length, 0);
  }
</script>

<h1 class="mt-2 text-xl font-bold">{told.title}</h1>
{#each told.opening as paragraph (paragraph)}<p class="my-1">{paragraph}</p>{/each}
{#if told.caution}<p class="my-1"><b>{told.caution.lead}</b> {told.caution.says}</p>{/if}
{#each told.parts as part, at (at)}
  <section class="mt-4">
    <h2 class="border-b border-ink text-lg font-bold">{part.title}</h2>
    <svelte:element
      this={part.numbered ? 'ol' : 'ul'}
      class={part.numbered ? 'list-decimal pl-7' : 'list-disc pl-5'}
      start={part.numbered ? firstNumber(at) : undefined}
    >
      {#each part.lines as line, place (place)}
        <li class="my-1.5">
          {#if line.rest || line.details.length || line.why}<b>{line.lead}</b
            >{line.rest}{:else}{line.lead}{/if}
          {#if line.details.length || line.why}
            <ul class="pl-1 text-sm">
              {#each line.details as detail (detail)}<li>{detail}</li>{/each}
              {#if line.why}<li><i>{line.why}</i></li>{/if}
            </ul>
          {/if}
        </li>
      {/each}
    </svelte:element>
  </section>
{/each}
