<script lang="ts">
  import type { Light } from '../api/client';
  import { words } from './vocabulary.svelte';

  interface Props {
    value: readonly Light[];
    /** Called with one light or more: a base is always seen in some light. */
    onset: (lights: Light[]) => void;
  }

  let { value, onset }: Props = $props();

  function toggle(light: Light, on: boolean) {
    const next = on ? [...value, light] : value.filter((each) => each !== light);
    if (next.length) onset(next);
  }
</script>

<fieldset class="mt-3">
  <legend class="label">Lights it is seen in</legend>
  <div class="flex flex-wrap gap-3">
    {#each words.all?.lights ?? [] as each (each.id)}
      <label class="flex items-center gap-1.5"
        ><input
          type="checkbox"
          class="accent-[var(--accent)]"
          checked={value.includes(each.id as Light)}
          onchange={(event) => toggle(each.id as Light, event.currentTarget.checked)}
        />{each.words}</label
      >
    {/each}
  </div>
</fieldset>
