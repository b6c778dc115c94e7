<script lang="ts">
  import type { Difference } from '../../api/client';
  import Help from '../../parts/Help.svelte';

  let { difference, done = false }: { difference: Difference; done?: boolean } = $props();
</script>

<ul class="list-disc pl-4">
  {#each difference.says as sentence (sentence)}<li>{sentence}</li>{/each}
  {#if !difference.says.length && !difference.figures.length}<li>Nothing changes on this face.</li>{/if}
</ul>
{#if difference.figures.length}
  <table class="mt-2 w-full text-sm">
    <thead>
      <tr class="label text-left"
        ><th class="font-normal">Figure</th><th class="text-right font-normal">{done ? 'Before' : 'Now'}</th
        ><th class="text-right font-normal">{done ? 'After' : 'Then'}</th><th></th></tr
      >
    </thead>
    <tbody>
      {#each difference.figures as figure (figure.name)}
        {@const up = figure.after > figure.before}
        <tr class="border-t border-line">
          <td>{figure.name} <Help of={figure.figure} /></td>
          <td class="text-right">{figure.before.toFixed(figure.decimals)} {figure.unit}</td>
          <td class="text-right">{figure.after.toFixed(figure.decimals)} {figure.unit}</td>
          <td class="label pl-2">
            {up ? '▲' : '▼'}
            {figure.gain}
          </td>
        </tr>
      {/each}
    </tbody>
  </table>
{/if}
