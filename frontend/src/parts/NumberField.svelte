<script lang="ts">
  interface Props {
    label: string;
    value: number;
    low: number;
    high: number;
    onset: (value: number) => void;
  }

  let { label, value, low, high, onset }: Props = $props();

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
