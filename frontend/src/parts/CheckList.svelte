<script lang="ts" generics="T extends string">
  /** Several of a few, each ticked by itself. */
  interface Props {
    label: string;
    options: { id: string; words: string }[];
    chosen: readonly T[];
    onset: (chosen: T[]) => void;
  }

  let { label, options, chosen, onset }: Props = $props();

  function tick(id: T, on: boolean) {
    const others = chosen.filter((each) => each !== id);
    onset(on ? [...others, id] : others);
  }
</script>

<fieldset class="mt-3">
  <legend class="label">{label}</legend>
  <div class="flex flex-wrap gap-x-3 gap-y-1">
    {#each options as each (each.id)}
      {@const id = each.id as T}
      <label class="flex items-center gap-1.5"
        ><input
          type="checkbox"
          class="accent-[var(--accent)]"
          checked={chosen.includes(id)}
          onchange={(event) => {
            tick(id, event.currentTarget.checked);
            // What is not taken on leaves no trace.
            event.currentTarget.checked = chosen.includes(id);
          }}
        />{each.words}</label
      >
    {/each}
  </div>
</fieldset>
