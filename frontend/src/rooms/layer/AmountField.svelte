<script lang="ts">
  import Minus from '@lucide/svelte/icons/minus';
  import Plus from '@lucide/svelte/icons/plus';

  interface Props {
    value: number;
    unit: string;
    /** What is set, for those who hear it. */
    label?: string;
    /** How far one press goes, where no ladder says it. */
    step?: number;
    /** Amounts that a hand can tell apart: one press goes to the next. */
    rungs?: number[];
    most: number;
    /** The amount in the words of the hand, shown in the place of the number. */
    told?: string;
    onset: (value: number) => Promise<unknown>;
  }

  let { value, unit, label = 'Amount', step = 1, rungs = [], most, told = '', onset }: Props = $props();
  const uid = $props.id();
  /** What was asked for and is on its way: quick presses go on from there, and Enter with leaving the field asks once. */
  let asked = $state<number | null>(null);
  let underway = 0;
  const now = $derived(asked ?? value);
  let text = $derived(String(now));

  async function set(next: number) {
    const held = Math.min(most, Math.max(0, Number(next.toFixed(3))));
    text = String(held);
    if (held === now) return;
    asked = held;
    underway += 1;
    await onset(held);
    underway -= 1;
    // Where it was refused, the amount that stands is shown again.
    if (!underway) asked = null;
  }

  /** The amount that one press leads to: the next rung, or so much more or less. */
  function beyond(way: 1 | -1): number {
    if (!rungs.length) return now + way * step;
    const further = rungs.filter((rung) => (way > 0 ? rung > now + 1e-6 : rung < now - 1e-6));
    return (way > 0 ? further[0] : further.at(-1)) ?? (way > 0 ? now : 0);
  }

  function typed() {
    const next = Number(text.replace(',', '.'));
    if (text.trim() === '' || !Number.isFinite(next) || next < 0 || next > most) {
      text = String(now);
      return;
    }
    void set(next);
  }
</script>

<div class="flex items-center gap-1">
  {#if !told}<label class="sr-only" for={uid}>{label} in {unit}</label>{/if}
  <button
    class="btn px-2"
    aria-label={label === 'Amount' ? 'Less' : `${label}: less`}
    onclick={() => set(beyond(-1))}><Minus size={14} aria-hidden="true" /></button
  >
  {#if told}<output class="min-w-28 text-center" aria-live="polite">{told}</output>{:else}<input
      id={uid}
      class="field w-16 text-right"
      inputmode="decimal"
      bind:value={text}
      onchange={typed}
      onkeydown={(event) => {
        if (event.key === 'Enter') typed();
      }}
    />{/if}
  <button
    class="btn px-2"
    aria-label={label === 'Amount' ? 'More' : `${label}: more`}
    onclick={() => set(beyond(1))}><Plus size={14} aria-hidden="true" /></button
  >
  {#if !told}<span class="label">{unit}, 0 to {most}</span>{/if}
</div>
