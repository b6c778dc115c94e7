<script lang="ts">
  import { untrack } from 'svelte';
  import type { Schemas } from '../../api/client';
  import NumberField from '../../parts/NumberField.svelte';
  import Modal from '../../parts/Modal.svelte';
  import { navigate } from '../../router';
  import type { WornState } from './worn.svelte';
  import Field from '../../parts/Field.svelte';

  /** The day it was worn on, and what the sitter says in the end. */
  let { worn }: { worn: WornState } = $props();
  const record = $derived(worn.record!);
  const AGAIN = [
    { value: true, words: 'Yes' },
    { value: false, words: 'No' },
  ];
  const COMFORT = ['Took it off', 'Felt it', 'Fine', 'Forgot it'];
  /** What is said so far: kept here, so that an answer to an earlier press does not undo a later one. */
  let verdict = $state<Schemas['VerdictInput']>({ ...untrack(() => worn.record?.verdict) });
  let day = $state.raw(untrack(stored));
  let asking = $state(false);

  function stored(): Schemas['Worn'] & { temperature_c: number; humidity_pc: number } {
    const { temperature_c, humidity_pc, worn } = record;
    return { ...worn, temperature_c, humidity_pc };
  }

  async function wore(change: { temperature_c?: number; humidity_pc?: number }) {
    const mine = { ...day, ...change };
    day = mine;
    // What was refused goes back to what is stored, unless more was typed since: that brings it along.
    if (!(await worn.wornOn(mine)) && day === mine) day = stored();
  }

  function say(change: Schemas['VerdictInput']) {
    verdict = { ...verdict, ...change };
    void worn.say(verdict);
  }

  async function remove() {
    if (await worn.remove()) await navigate('/wear');
  }
</script>

<section class="panel flex flex-col gap-2 p-3" aria-label="The day, and the verdict">
  <h2 class="heading">The day, and the verdict</h2>
  <div class="flex flex-wrap items-end gap-3">
    <NumberField
      label="Warmest, °C"
      value={day.temperature_c}
      of="temperature_c"
      onset={(temperature_c) => void wore({ temperature_c })}
    />
    <NumberField
      label="Humidity, %"
      value={day.humidity_pc}
      of="humidity_percent"
      onset={(humidity_pc) => void wore({ humidity_pc })}
    />
  </div>
  <div class="flex flex-wrap items-center gap-2" role="group" aria-label="Would they wear it again?">
    <span>Would they wear it again?</span>
    {#each AGAIN as each (each.words)}
      <button
        class="btn"
        aria-pressed={verdict.again === each.value}
        onclick={() => say({ again: verdict.again === each.value ? null : each.value })}>{each.words}</button
      >
    {/each}
  </div>
  <div class="flex flex-wrap items-center gap-2" role="group" aria-label="How it felt">
    <span>How it felt:</span>
    {#each COMFORT as each, place (each)}
      <button
        class="btn"
        aria-pressed={verdict.comfort === place}
        onclick={() => say({ comfort: verdict.comfort === place ? null : (place as 0 | 1 | 2 | 3) })}
        >{each}</button
      >
    {/each}
  </div>
  <Field
    label="What they say of it"
    class="h-control-l w-full"
    maxlength={600}
    value={verdict.text ?? ''}
    onchange={(event) => say({ text: event.currentTarget.value })}
  />
  <button class="btn self-start" onclick={() => (asking = true)}>Forget this record…</button>
</section>

<Modal bind:open={asking} title="Forget this record?">
  {#snippet actions()}
    <button class="btn btn-main" disabled={worn.busy} onclick={() => void remove()}>Forget it</button>
  {/snippet}
  <p>
    {record.looks.length === 1 ? 'Its look' : `Its ${record.looks.length} looks`} and photographs go with it, and
    what was learnt from them. The plan stays.
  </p>
</Modal>
