<script lang="ts">
  import NumberField from '../../parts/NumberField.svelte';
  import type { ShelfState } from './shelf.svelte';

  let { shelf }: { shelf: ShelfState } = $props();
  type Lab = [number, number, number];
  let black = $state<Lab>([50, 8, 10]);
  let white = $state<Lab>([72, 9, 18]);
  let film = $state(9);
  const AXES = [
    { words: 'L*', of: 'lightness' },
    { words: 'a*', of: 'opponent' },
    { words: 'b*', of: 'opponent' },
  ] as const;
  const cards = $derived([
    { words: 'over black', lab: black },
    { words: 'over white', lab: white },
  ]);

  function set(card: number, place: number, value: number) {
    const lab = [...(card ? white : black)] as Lab;
    lab[place] = value;
    if (card) white = lab;
    else black = lab;
  }
</script>

<details>
  <summary class="label cursor-pointer"
    >Measured instead of guessed: a film drawn over black and white</summary
  >
  {#each cards as card, which (card.words)}
    <div class="mt-2 flex flex-wrap gap-2">
      {#each AXES as axis, place (axis.words)}
        <NumberField
          label="{axis.words} {card.words}"
          value={card.lab[place] ?? 0}
          of={axis.of}
          onset={(value) => set(which, place, value)}
        />
      {/each}
    </div>
  {/each}
  <div class="mt-2 flex flex-wrap items-end gap-2">
    <NumberField label="Dry film, µm" value={film} of="drawdown_um" onset={(value) => (film = value)} />
    <button class="btn" onclick={() => shelf.item.measure(black, white, film)}
      >Work out colour and cover</button
    >
  </div>
</details>
