<script lang="ts">
  import Minus from '@lucide/svelte/icons/minus';
  import Plus from '@lucide/svelte/icons/plus';

  interface Props {
    value: number;
    unit: string;
    step: number;
    most: number;
    onset: (value: number) => void;
  }

  let { value, unit, step, most, onset }: Props = $props();
  const uid = $props.id();
  let text = $derived(String(value));

  function set(next: number) {
    const held = Math.min(most, Math.max(0, Number(next.toFixed(3))));
    if (held !== value) onset(held);
  }

  function typed() {
    const next = Number(text.replace(',', '.'));
    if (text.trim() === '' || !Number.isFinite(next) || next < 0 || next > most) {
      text = String(value);
      return;
    }
    set(next);
  }
</script>

<div class="flex items-center gap-1">
  <label class="sr-only" for={uid}>Amount in {unit}</label>
  <button class="btn px-2" aria-label="Less" onclick={() => set(value - step)}
    ><Minus size={14} aria-hidden="true" /></button
  >
  <input
    id={uid}
    class="h-8 w-16 rounded-sm border border-line bg-well px-2 text-right"
    inputmode="decimal"
    bind:value={text}
    onchange={typed}
    onkeydown={(event) => {
      if (event.key === 'Enter') typed();
    }}
  />
  <button class="btn px-2" aria-label="More" onclick={() => set(value + step)}
    ><Plus size={14} aria-hidden="true" /></button
  >
  <span class="label">{unit}, 0 to {most}</span>
</div>
