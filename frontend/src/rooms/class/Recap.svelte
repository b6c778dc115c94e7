<script lang="ts">
  import { api, ask, type ClassRecap, type ClassShown } from '../../api/client';
  import RoomBar from '../../parts/RoomBar.svelte';
  import { tried } from '../../parts/tried';
  import { p, route } from '../../router';
  import { ClassState } from './class.svelte';
  import { spoken } from './hours';
  import Awaited from '../../parts/Awaited.svelte';
  import { keyed } from '../../parts/resource.svelte';

  /** A class looked back on: block by block, and what each student should practise. */
  const id = $derived(route.params.id ?? '');
  const own = $derived(new ClassState(id));
  const found = $derived<ClassShown | null>(own.found);
  const looking = keyed(
    () => own,
    async (opened) => {
      const params = { path: { id: opened.id } };
      const [came, found] = await Promise.all([
        opened.opening.load(),
        ask(api.GET('/api/classes/{id}/recap', { params })),
      ]);
      if (!came) throw new Error(opened.opening.failed);
      return found;
    },
  );
  const recap = $derived(looking.value);
  let put = $state.raw<string[]>([]);
  let putting = $state(false);
  const names = $derived(new Map((found?.steps ?? []).map((each) => [each.id, each])));

  /** What went wrong is what Drill asks this student next: under the name that the class has. */
  async function putForward(of: ClassRecap['practise'][number]) {
    putting = true;
    const all = await tried(ask(api.GET('/api/drill')));
    const same = all?.students.find((each) => each.name.toLowerCase() === of.student.toLowerCase());
    const id =
      same?.id ??
      (all &&
        (
          await tried(
            ask(
              api.POST('/api/drill/students', {
                body: { name: of.student, group: found?.room.course ?? '' },
              }),
            ),
          )
        )?.id);
    const body = { judgements: of.judgements.map((each) => each.id) };
    const done =
      id && (await tried(ask(api.POST('/api/drill/students/{id}/next', { params: { path: { id } }, body }))));
    putting = false;
    if (done) put = [...put, of.student];
  }

  function took(planned: number, taken: number) {
    const by = taken - planned;
    if (Math.abs(by) < 60) return 'as planned';
    return `${spoken(Math.abs(by))} ${by > 0 ? 'longer' : 'shorter'} than planned`;
  }
</script>

<svelte:head><title>{found ? `${found.room.title} · ` : ''}Recap · Nabrel</title></svelte:head>

<div class="flex h-full flex-col">
  <RoomBar room="class">
    <a class="btn" href={p('/class/:id', { params: { id } })}>To the class</a>
    <h1 class="min-w-0 truncate font-semibold">Recap{found ? `: ${found.room.title}` : ''}</h1>
    {#if found}<span class="label">{found.when}</span>{/if}
    {#if found && !found.held && found.begun}
      <span class="ml-auto"></span>
      <button class="btn btn-main" disabled={own.busy} onclick={() => void own.hold()}
        >Mark as held: take it from the packs</button
      >
    {/if}
  </RoomBar>
  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <main class="grid min-h-0 grow content-start gap-2 overflow-auto p-2 lg:grid-cols-[3fr_2fr]" tabindex="0">
    {#if looking.failed || !recap || !found}
      <Awaited of={looking} says="This class could not be looked back on" />
    {:else if !found.begun}
      <p class="panel p-3">
        This class has not begun. What was asked and who was late is said here afterwards.
      </p>
    {:else}
      <section class="panel p-3" aria-label="Block by block">
        <h2 class="heading">Block by block</h2>
        {#if recap.absent.length}<p>Not there: {recap.absent.join(', ')}.</p>{/if}
        <ol>
          {#each recap.blocks as block, number (block.step)}
            <li class="border-t border-line py-1.5">
              <div class="flex flex-wrap items-baseline gap-x-3">
                <h3 class="font-semibold">{number + 1} {block.words}</h3>
                <span class="label"
                  >{block.taken_s
                    ? `${spoken(block.taken_s)}, ${took(block.planned_s, block.taken_s)}`
                    : 'not come to'}{block.taken_s && !block.practised ? '; shown, not practised' : ''}</span
                >
              </div>
              {#each block.questions as each, place (place)}
                <p>
                  <span class="label"
                    >Asked at {names.get(each.step)?.words.toLowerCase() ?? 'this step'}:</span
                  >
                  {each.text}
                </p>
              {/each}
              {#if block.late.length}
                <p>
                  <span class="label">Late:</span>
                  {block.late.map((each) => `${each.student} by ${spoken(each.late_s)}`).join(', ')}.
                </p>
              {/if}
              {#if block.again.length}<p>
                  <span class="label">Once more:</span>
                  {block.again.join(', ')}.
                </p>{/if}
              {#if block.unchecked.length}
                <p><span class="label">Not checked:</span> {block.unchecked.join(', ')}.</p>
              {/if}
            </li>
          {/each}
        </ol>
      </section>
      <section class="panel p-3" aria-label="To practise">
        <h2 class="heading">To practise</h2>
        {#if !recap.practise.length}<p>Everybody was checked in time.</p>{/if}
        <ul>
          {#each recap.practise as each (each.student)}
            <li class="border-t border-line py-1.5">
              <b>{each.student}</b>: {each.words.join(', ').toLowerCase()}
              <p class="label">{each.says}</p>
              {#if each.drills.length}
                <p>
                  <span class="label">In Drill:</span>
                  {#each each.drills as drill, place (drill.id)}
                    {place ? ', ' : ''}<a class="underline" href={p('/drill', { search: { kind: drill.id } })}
                      >{drill.name.toLowerCase()}</a
                    >
                  {/each}
                </p>
              {/if}
              {#if each.judgements.length}
                {#if put.includes(each.student)}<p class="label" role="status">Asked next in Drill.</p>
                {:else}<button class="btn mt-1" disabled={putting} onclick={() => void putForward(each)}
                    >Ask it next in Drill</button
                  >{/if}
              {/if}
            </li>
          {/each}
        </ul>
      </section>
    {/if}
  </main>
</div>
