<script lang="ts">
  import { onMount } from 'svelte';
  import { p } from '../../router';
  import { putOn } from '../wear/put-on';
  import { clock } from './clock';
  import type { RunState } from './run.svelte';

  /** What a finished run says: time by step against the plan, what it used, what to clean, and the second look. */
  let { run }: { run: RunState } = $props();
  const says = $derived(run.sending.says);
  const look = $derived(says ? says.look_s - run.now : 0);
  const most = $derived(
    Math.max(1, ...(says?.steps ?? []).flatMap((each) => [each.planned_s, each.taken_s])),
  );

  /** The base of this run is worn: its looks are kept in the Wear room. */
  async function lookAtIt() {
    const live = run.live;
    if (live)
      await putOn(live.plan_id, {
        worn_from: new Date(Date.parse(live.started) + 1000 * (says?.length_s ?? 0)).toISOString(),
        run: run.id,
      });
  }

  onMount(() => {
    if (!run.sending.says) void run.sending.report();
  });
</script>

<header class="flex shrink-0 flex-wrap items-center gap-2">
  <a class="btn" href={p('/pace/:id', { params: { id: run.live?.plan_id ?? '' } })}>To the timetable</a>
  <h1 class="text-xl font-semibold">The run is finished</h1>
  <a class="btn ml-auto" href="/api/runs/{run.id}/file" download>Export run</a>
</header>
{#if says}
  <section class="panel shrink-0 p-3" aria-label="In all">
    <p class="text-2xl font-semibold tabular-nums">
      {clock(says.length_s)}
      <span class="label text-base font-normal">
        {says.paused_s >= 1 ? `of which ${clock(says.paused_s)} paused; ` : ''}the timetable said {clock(
          run.live?.length_s ?? 0,
        )}</span
      >
    </p>
    {#each says.compared as line (line)}<p>{line}</p>{/each}
  </section>
  <section class="panel shrink-0 p-3" aria-label="Second look">
    <h2 class="heading">Second look</h2>
    <p>
      {#if look > 0}In <b class="tabular-nums" role="timer">{clock(Math.ceil(look))}</b>{:else}<b>Now</b
        >{/if}: powder has taken up oil and colours have settled. Look for white cast, shine, creases and a
      colour that shifted.
    </p>
    <p class="mt-1 flex flex-wrap gap-2">
      <button class="btn btn-main" onclick={() => void lookAtIt()}>Note what is seen</button>
      <a class="btn" href="/api/runs/{run.id}/calendar" download>Put it in a calendar</a>
    </p>
  </section>
  <div class="grid gap-2 md:grid-cols-2">
    <section class="panel p-3" aria-label="Time by step">
      <h2 class="heading mb-1">Time by step</h2>
      <table class="w-full">
        <thead class="label text-left">
          <tr
            ><th>Step</th><th class="pr-2 text-right">Planned</th><th class="pr-2 text-right">Taken</th><th
            ></th></tr
          >
        </thead>
        <tbody>
          {#each says.steps as each (each.step)}
            <tr>
              <td
                >{each.words}{each.state === 'done'
                  ? ''
                  : each.state === 'again'
                    ? ', twice'
                    : ', skipped'}</td
              >
              <td class="pr-2 text-right tabular-nums">{clock(each.planned_s)}</td>
              <td class="pr-2 text-right tabular-nums">{clock(each.taken_s)}</td>
              <td class="w-28" aria-hidden="true">
                <svg viewBox="0 0 100 12" class="h-3 w-full" preserveAspectRatio="none">
                  <rect width={(100 * each.planned_s) / most} height="5" fill="var(--line)" />
                  <rect y="6" width={(100 * each.taken_s) / most} height="5" fill="var(--accent)" />
                </svg>
              </td>
            </tr>
          {/each}
        </tbody>
      </table>
    </section>
    <div class="flex flex-col gap-2">
      <section class="panel p-3" aria-label="Used">
        <h2 class="heading mb-1">Taken from the packs</h2>
        <ul>
          {#each says.used as each (each.item)}<li>{each.name}: {each.says}</li>{:else}<li>
              Nothing.
            </li>{/each}
        </ul>
      </section>
      <section class="panel p-3" aria-label="To clean">
        <h2 class="heading mb-1">To clean</h2>
        <p>{says.clean.length ? `${says.clean.join(', ')}.` : 'No tool was used.'} Wash your hands.</p>
      </section>
      {#if run.log.notes.length}
        <section class="panel p-3" aria-label="Notes">
          <h2 class="heading mb-1">Notes</h2>
          <ul>
            {#each run.log.notes as note (note.at_s)}
              <li><span class="tabular-nums">{clock(note.at_s)}</span> {note.text}</li>
            {/each}
          </ul>
        </section>
      {/if}
    </div>
  </div>
{:else}<p role="status">Adding up…</p>{/if}
