<script lang="ts">
  import { api, ask, type Schemas } from '../../api/client';
  import Modal from '../../parts/Modal.svelte';
  import { notices } from '../../parts/notices.svelte';
  import { sent } from '../../parts/sending';
  import { tried } from '../../parts/tried';

  /** A table of looks or a wear file, chosen with a button; a table is shown row by row before anything is kept. */
  let { onimport }: { onimport: () => unknown } = $props();
  let table = $state.raw<{ file: File; found: Schemas['LookRowsWire'] } | null>(null);
  let busy = $state(false);
  const MARKS = { good: '●', problem: '▲' };
  const rows = (count: number) => `${count} ${count === 1 ? 'row' : 'rows'}`;

  async function chosen(input: HTMLInputElement) {
    const file = input.files?.[0];
    input.value = '';
    if (!file) return;
    busy = true;
    if (file.name.endsWith('.json')) {
      const body = await sent(file, 'application/json');
      const stored = await tried(ask(api.POST('/api/wears/file', body)));
      if (stored) {
        notices.say(`The record of ${stored.nickname} is imported.`);
        await onimport();
      }
    } else {
      const found = await tried(ask(api.POST('/api/wears/preview', await sent(file, 'text/csv'))));
      table = found && { file, found };
    }
    busy = false;
  }

  async function take() {
    if (!table) return;
    busy = true;
    const params = { query: { leave_out: true } };
    const stored = await tried(
      ask(api.POST('/api/wears/table', { params, ...(await sent(table.file, 'text/csv')) })),
    );
    busy = false;
    if (!stored) return;
    notices.say(
      `${rows(stored.rows)} imported, into ${stored.records === 1 ? '1 record' : `${stored.records} records`}.`,
    );
    table = null;
    await onimport();
  }
</script>

<label class="btn cursor-pointer"
  >Import looks<input
    class="sr-only"
    type="file"
    accept=".csv,.json,text/csv,application/json"
    disabled={busy}
    onchange={(event) => void chosen(event.currentTarget)}
  /></label
>

<Modal
  bind:open={
    () => table !== null,
    (open) => {
      if (!open) table = null;
    }
  }
  title="Before the import"
  wide="44"
>
  {#snippet about()}
    {table?.file.name}: {rows(table?.found.good ?? 0)} can be imported{table?.found.problems
      ? `, ${table.found.problems} cannot and would be left out`
      : ''}. Nothing is saved yet.
  {/snippet}
  {#snippet actions()}
    <button class="btn btn-main" disabled={busy || !table?.found.good} onclick={() => void take()}
      >Import {rows(table?.found.good ?? 0)}</button
    >
  {/snippet}
  <table class="w-full text-sm">
    <thead>
      <tr class="label text-left">
        <th class="p-1 font-normal" scope="col">Line</th>
        <th class="p-1 font-normal" scope="col">Sitter</th>
        <th class="p-1 font-normal" scope="col">What it says</th>
      </tr>
    </thead>
    <tbody>
      {#each table?.found.rows ?? [] as row (row.line)}
        <tr class="border-t border-line align-top">
          <td class="p-1">{row.line}</td>
          <td class="p-1">{row.name}</td>
          <td class="p-1"><b>{MARKS[row.status]}</b> {row.says}</td>
        </tr>
      {/each}
    </tbody>
  </table>
  {#if table && table.found.rows.length < table.found.good + table.found.problems}
    <p class="label mt-1">The first {table.found.rows.length} rows of each kind are shown.</p>
  {/if}
</Modal>
