<script lang="ts">
  import { words, type Limited } from './vocabulary.svelte';

  interface Props {
    label: string;
    value: number;
    /** Where the served limits hold its range. */
    of: Limited;
    onset: (value: number) => void;
  }

  let { label, value, of, onset }: Props = $props();

  const { low, high } = $derived(words.limit(of));

  function typed(event: Event & { currentTarget: HTMLInputElement }) {
    const found = event.currentTarget.valueAsNumber;
    if (Number.isFinite(found) && found >= low && found <= high) onset(found);
    else event.currentTarget.value = String(value);
  }
</script>

<label class="flex flex-col"
  ><span class="label">{label}</span>
  <input
    type="number"
    step="any"
    class="h-8 w-20 rounded-sm border border-line bg-well px-2"
    min={low}
    max={high}
    {value}
    onchange={typed}
  /></label
>
