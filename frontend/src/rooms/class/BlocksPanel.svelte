<script lang="ts">
  import Field from '../../parts/Field.svelte';
  import Lock from '@lucide/svelte/icons/lock';
  import Merge from '@lucide/svelte/icons/merge';
  import Scissors from '@lucide/svelte/icons/scissors';
  import type { ClassShown } from '../../api/client';
  import type { ClassState } from './class.svelte';
  import { hour, spoken } from './hours';

  /** Where the plan is cut: every block with when it is shown and practised, and borders that may be moved. */
  let { own, found, fixed }: { own: ClassState; found: ClassShown; fixed: boolean } = $props();
  const names = $derived(new Map(found.steps.map((each) => [each.id, each])));
  const blocks = $derived(
    found.lesson.blocks
      .filter((each) => each.phase === 'demonstrate')
      .map((shown) => ({
        shown,
        practised: found.lesson.blocks.find(
          (each) => each.phase === 'practise' && each.steps[0] === shown.steps[0],
        ),
      })),
  );
  const at = (seconds: number) => hour(found.room.start, seconds, found.jumps);
  const border = (step: string) => found.borders.find((each) => each.step === step);

  function pinned(event: Event & { currentTarget: HTMLInputElement }, step: string) {
    const [hours, minutes] = event.currentTarget.value.split(':').map(Number);
    const [from, past] = found.room.start.split(':').map(Number);
    if (!event.currentTarget.value) return void own.pin(step, null);
    const seconds =
      (((hours ?? 0) * 60 + (minutes ?? 0) - (from ?? 0) * 60 - (past ?? 0) + 1440) % 1440) * 60;
    void own.pin(step, seconds);
  }
</script>

<section class="panel p-2.5" aria-label="Blocks">
  <p class="label mb-1">
    A block is shown, then practised, and everybody is checked. Proposed between chapters and at long waits;
    drag a block in the clock, or say here when it begins.
    {#if found.room.cuts !== null && found.room.cuts !== undefined && !fixed}
      <button class="btn h-control-xs px-1.5" onclick={() => void own.change({ cuts: null, pins: {} })}
        >As proposed</button
      >
    {/if}
  </p>
  <ol class="flex flex-col gap-2">
    {#each blocks as { shown, practised }, number (shown.steps[0])}
      {@const first = shown.steps[0] ?? ''}
      <li class="border-t border-line pt-1.5">
        <div class="flex flex-wrap items-center gap-x-3 gap-y-1">
          <h3 class="font-semibold">Block {number + 1}: {shown.words}</h3>
          <span class="label tabular-nums"
            >shown {at(shown.start_s)}, {spoken(shown.end_s - shown.start_s)}{practised
              ? `; practised ${at(practised.start_s)}, ${spoken(practised.end_s - practised.start_s)}`
              : ''}</span
          >
          {#if number}
            <Field
              label="Begins at"
              beside
              outer="ml-auto gap-1.5"
              type="time"
              disabled={fixed}
              value={found.room.pins?.[first] === undefined ? '' : at(found.room.pins[first])}
              onchange={(event) => pinned(event, first)}
            />
          {/if}
        </div>
        <ul class="mt-1 flex flex-wrap gap-1">
          {#each shown.steps as step (step)}
            {@const name = names.get(step)}
            {@const here = border(step)}
            <li class="flex items-center card">
              {#if here}
                <button
                  class="h-control-s px-1.5 text-quiet hover:text-ink disabled:opacity-45"
                  disabled={fixed || !!here.why_not}
                  title={here.why_not
                    ? `No block may begin here: ${here.why_not}`
                    : here.begins
                      ? 'Join with the block before'
                      : 'Begin a block here'}
                  aria-label="{here.begins
                    ? 'Join with the block before'
                    : 'Begin a block'} at {name?.words}{here.why_not
                    ? `: not possible, ${here.why_not}`
                    : ''}"
                  onclick={() => void own.cut(step)}
                  >{#if here.begins}<Merge size={14} aria-hidden="true" />{:else if here.why_not}<Lock
                      size={12}
                      aria-hidden="true"
                    />{:else}<Scissors size={14} aria-hidden="true" />{/if}</button
                >
              {/if}
              <span class="px-1.5 py-0.5">{name?.number} {name?.words}</span>
            </li>
          {/each}
        </ul>
      </li>
    {/each}
  </ol>
</section>
