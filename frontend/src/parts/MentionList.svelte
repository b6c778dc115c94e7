<script lang="ts">
  import type { Mention } from '../api/client';
  import { byThing } from './mentions';

  interface Props {
    mentions: Mention[];
    /** The ids of the things whose titles stay as they are. */
    leave: string[];
  }

  let { mentions, leave = $bindable() }: Props = $props();
  const KINDS = { plan: 'plan', class: 'class', set: 'set of exercises', kit: 'named kit' } as const;
  const things = $derived(byThing(mentions));

  function choose(id: string, taken: boolean) {
    leave = taken ? leave.filter((each) => each !== id) : [...leave, id];
  }
</script>

<fieldset class="mb-3">
  <legend class="mb-1 font-semibold">The name stands in titles of what stays</legend>
  <p class="label mb-1">
    Where it is ticked, the name is replaced by “somebody”, in backups too. Not ticked is what could mean
    something else: tick it where it is the name.
  </p>
  <ul class="max-h-48 overflow-auto">
    {#each things as { id, kind, texts } (id)}
      <li>
        <label class="flex items-baseline gap-2 py-1">
          <input
            type="checkbox"
            class="accent-[var(--accent)]"
            checked={!leave.includes(id)}
            onchange={(event) => choose(id, event.currentTarget.checked)}
          />
          <span class="min-w-0 break-words"
            >{texts.map((text) => `“${text}”`).join(', ')} <span class="label">{KINDS[kind]}</span></span
          >
        </label>
      </li>
    {/each}
  </ul>
</fieldset>
