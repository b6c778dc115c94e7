<script lang="ts">
  import Choice from '../../parts/Choice.svelte';
  import Modal from '../../parts/Modal.svelte';
  import LightsField from '../../parts/LightsField.svelte';
  import NumberField from '../../parts/NumberField.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import { WishesState } from './wishes.svelte';
  import type { WorkbenchState } from './workbench.svelte';

  let { bench, open = $bindable() }: { bench: WorkbenchState; open: boolean } = $props();
  const wishes = $derived(bench.plan ? new WishesState(bench.plan.intent) : null);
  const climate = $derived(wishes?.value('climate') ?? { temperature_c: 22, humidity_percent: 50 });
  const fixed = $derived([
    { name: 'cover', words: 'Cover', terms: words.all?.covers ?? [] },
    { name: 'finish', words: 'Finish', terms: words.all?.finishes ?? [] },
    { name: 'viewing', words: 'Seen', terms: words.all?.viewings ?? [] },
  ] as const);

  function consider() {
    if (!wishes?.any) return;
    open = false;
    void bench.consider(wishes.wish);
  }
</script>

<Modal bind:open title="Wishes and ways of working" wide="56">
  {#snippet about()}
    What is wanted, the day it is worn on, and the ways of working that practitioners dispute, each with its
    reason.
  {/snippet}
  {#snippet actions()}
    <button class="btn btn-main" disabled={!wishes?.any} onclick={consider}>See what it would change</button>
  {/snippet}
  {#if wishes}
    <div class="flex flex-wrap items-end gap-3">
      {#each fixed as each (each.name)}
        <div>
          <p class="label">{each.words}</p>
          <Choice
            label={each.words}
            value={String(wishes.value(each.name))}
            options={each.terms.map((term) => ({ id: term.id, words: term.words }))}
            onchoose={(value) => wishes.set(each.name, value)}
          />
        </div>
      {/each}
      <NumberField
        label="Hours"
        value={wishes.value('wear_hours')}
        of="wear_hours"
        onset={(hours) => wishes.set('wear_hours', hours)}
      />
      <NumberField
        label="Air, °C"
        value={climate.temperature_c ?? 22}
        of="temperature_c"
        onset={(temperature_c) => wishes.set('climate', { ...climate, temperature_c })}
      />
      <NumberField
        label="Humidity, %"
        value={climate.humidity_percent ?? 50}
        of="humidity_percent"
        onset={(humidity_percent) => wishes.set('climate', { ...climate, humidity_percent })}
      />
    </div>
    <LightsField value={wishes.value('lights')} onset={(lights) => wishes?.set('lights', lights)} />
    <h3 class="heading mt-4 mb-1">Ways of working</h3>
    <ul class="grid gap-x-6 gap-y-2 md:grid-cols-2">
      {#each words.all?.options ?? [] as option (option.name)}
        {@const chosen = option.ways.find((way) => way.value === wishes.way(option))}
        <li>
          <div class="flex items-center justify-between gap-2">
            <span>{option.words}</span>
            <Choice
              label={option.words}
              value={wishes.way(option)}
              options={option.ways.map((way) => ({ id: way.value, words: way.words }))}
              onchoose={(way) => wishes.choose(option, way)}
            />
          </div>
          <p class="label">{chosen?.why ?? ''}</p>
        </li>
      {/each}
    </ul>
  {/if}
</Modal>
