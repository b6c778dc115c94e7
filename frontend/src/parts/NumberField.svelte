<script lang="ts">
  import { words, type Limited } from './vocabulary.svelte';
  import Field from './Field.svelte';

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

<Field {label} class="w-20" type="number" step="any" min={low} max={high} {value} onchange={typed} />
