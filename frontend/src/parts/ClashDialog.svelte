<script lang="ts">
  import Modal from './Modal.svelte';
  import { clashes, differing } from './clash.svelte';

  const clash = $derived(clashes.shown);
  const rows = $derived(clash?.theirs ? differing(clash.mine, clash.theirs) : []);
</script>

<Modal
  bind:open={() => clash !== null, (on) => on || (clashes.shown = null)}
  title={clash?.theirs ? `Somebody else changed ${clash.name}` : `Somebody else removed ${clash?.name ?? ''}`}
>
  {#snippet about()}
    {#if clash?.theirs}Nothing is saved yet. Choose which one is to stand.{:else}Nothing is saved yet. Save
      yours to bring it back.{/if}
  {/snippet}
  {#if rows.length}
    <table class="w-full">
      <thead>
        <tr class="label text-left"
          ><th class="font-normal">What</th><th class="font-normal">Yours</th><th class="font-normal"
            >Theirs</th
          ></tr
        >
      </thead>
      <tbody>
        {#each rows as row (row.field)}
          <tr class="border-t border-line align-top">
            <th class="py-1 pr-3 text-left font-normal first-letter:uppercase">{row.field}</th>
            <td class="py-1 pr-3 break-words">{row.mine}</td>
            <td class="py-1 break-words">{row.theirs}</td>
          </tr>
        {/each}
      </tbody>
    </table>
  {/if}
  {#snippet actions()}
    <button class="btn btn-main" onclick={() => clashes.save()}>Save mine</button>
    <button class="btn" onclick={() => clashes.take()}
      >{clash?.theirs ? 'Take theirs' : 'Leave it removed'}</button
    >
  {/snippet}
</Modal>
