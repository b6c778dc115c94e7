<script lang="ts">
  import type { OwnedTool } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import Modal from '../../parts/Modal.svelte';
  import { today } from '../../parts/today';
  import { words } from '../../parts/vocabulary.svelte';
  import type { ShelfState } from './shelf.svelte';

  let { shelf, open = $bindable() }: { shelf: ShelfState; open: boolean } = $props();
  let kind = $state<OwnedTool['kind']>('damp_sponge');
  let name = $state('');
  const STATES = [
    { id: 'clean', words: 'Clean' },
    { id: 'used', words: 'Used' },
    { id: 'washing', words: 'Washed, drying' },
  ] as const;

  function turn(tool: OwnedTool, state: NonNullable<OwnedTool['state']>) {
    void shelf.tools.save({ ...tool, state, cleaned_on: state === 'used' ? tool.cleaned_on : today() });
  }

  async function add(event: SubmitEvent) {
    event.preventDefault();
    await shelf.tools.add(kind, name.trim());
    name = '';
  }
</script>

<Modal bind:open title="Tools" wide="56">
  {#snippet about()}
    Clean or single-use tools for every sitter; a recorded run marks what it used. Local hygiene codes come
    first.
  {/snippet}
  <table class="w-full">
    <thead>
      <tr class="label text-left"
        ><th class="font-normal">Tool</th><th class="font-normal">State</th><th class="font-normal"
          >In use since</th
        ><th class="font-normal">For the next sitter</th><th></th></tr
      >
    </thead>
    <tbody>
      {#each shelf.tools.all?.tools ?? [] as each (each.tool.id)}
        <tr class="border-t border-line">
          <td class="py-1">{each.words}<span class="label block">{words.tool(each.tool.kind)}</span></td>
          <td
            ><Choice
              label="State of {each.words}"
              value={each.tool.state ?? 'clean'}
              options={[...STATES]}
              onchoose={(state) => turn(each.tool, state)}
            /></td
          >
          <td
            ><input
              type="date"
              class="field px-1"
              aria-label="{each.words} in use since"
              max={today()}
              value={each.tool.since ?? ''}
              onchange={(event) =>
                shelf.tools.save({ ...each.tool, since: event.currentTarget.value || null })}
            /></td
          >
          <td class="max-w-56">{each.ready ? '✓' : '▲'} {each.says}</td>
          <td
            ><button
              class="btn h-control-s"
              aria-label="Take out {each.words}"
              onclick={() => shelf.tools.remove(each.tool.id)}>Take out</button
            ></td
          >
        </tr>
      {:else}<tr><td colspan="5" class="py-2">No tools yet.</td></tr>{/each}
    </tbody>
  </table>
  <form class="mt-3 flex flex-wrap items-center gap-2" onsubmit={add}>
    <Choice
      label="Kind of tool"
      value={kind}
      options={(words.all?.tools ?? []).map((tool) => ({
        id: tool.id as OwnedTool['kind'],
        words: tool.words,
      }))}
      onchoose={(next) => (kind = next)}
    />
    <input
      class="field"
      aria-label="What the tool is called"
      placeholder="Name, such as pale end"
      maxlength="120"
      bind:value={name}
    />
    <button class="btn">Add tool</button>
  </form>
</Modal>
