<script lang="ts">
  import type { ClassRoom, ClassShown } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import type { ClassState } from './class.svelte';
  import { hour } from './hours';
  import Field from '../../parts/Field.svelte';

  /** Who comes: their pace, face, kit and partner, and when they work where. */
  let { own, found, fixed }: { own: ClassState; found: ClassShown; fixed: boolean } = $props();
  type Student = ClassRoom['students'][number];
  const students = $derived(found.room.students);
  const PACES = [1, 1.25, 1.5, 1.75, 2, 2.25, 2.5, 3].map((pace) => ({
    id: String(pace),
    words: pace === 1 ? 'as an expert' : `${pace} times as long`,
  }));
  const NOBODY = { id: '', words: 'Nobody' };
  const sitters = $derived([
    { id: '', words: 'Not known' },
    ...(own.lists?.sitters ?? []).map((each) => ({ id: each.id, words: each.name })),
  ]);
  const kits = $derived([
    { id: '', words: 'From the class' },
    ...(own.lists?.kits ?? []).map((each) => ({ id: each.id, words: each.name })),
  ]);
  let adding = $state('');
  type Tool = NonNullable<Student['tools']>[number];
  const tools = $derived((words.all?.tools ?? []) as { id: Tool; words: string }[]);

  const partner = (name: string) =>
    (found.room.pairs ?? []).find((pair) => pair.includes(name))?.find((each) => each !== name) ?? '';

  function change(place: number, change: Partial<Student>) {
    const renamed = change.name;
    const before = students[place]!.name;
    const pairs = (found.room.pairs ?? []).map(
      (pair) => pair.map((each) => (renamed && each === before ? renamed : each)) as [string, string],
    );
    void own.change({
      students: students.map((each, at) => (at === place ? { ...each, ...change } : each)),
      pairs,
    });
  }

  function pair(name: string, other: string) {
    const rest = (found.room.pairs ?? []).filter(
      (each) => !each.includes(name) && !(other && each.includes(other)),
    );
    void own.change({ pairs: other ? [...rest, [name, other]] : rest });
  }

  function remove(name: string) {
    void own.change({
      students: students.filter((each) => each.name !== name),
      pairs: (found.room.pairs ?? []).filter((each) => !each.includes(name)),
    });
  }

  async function add(event: SubmitEvent) {
    event.preventDefault();
    const name = adding.trim();
    if (!name) return;
    const sitter = own.lists?.sitters.find((each) => each.name === name)?.id ?? null;
    if (await own.change({ students: [...students, { name, pace: 2, sitter, kit: null, tools: null }] }))
      adding = '';
  }

  /** When a student first works, where, and with whom they share nothing. */
  function turns(name: string) {
    const tasks = found.lesson.students.find((each) => each.name === name)?.tasks ?? [];
    return tasks
      .filter((task) => task.what === 'practise' || task.what === 'observe')
      .map(
        (task) =>
          `${hour(found.room.start, task.start_s, found.jumps)} ${task.station ? `station ${task.station}` : `observes ${task.whom ?? 'the room'}`}`,
      )
      .join(' · ');
  }
</script>

<section class="panel p-2.5" aria-label="Students">
  <ul>
    {#each students as student, place (student.name)}
      {@const lesson = found.lesson.students.find((each) => each.name === student.name)}
      <li class="border-b border-line py-1.5">
        <div class="flex flex-wrap items-center gap-2">
          <input
            class="field w-36 font-semibold"
            aria-label="Nickname of student {place + 1}"
            maxlength="60"
            value={student.name}
            disabled={fixed}
            onchange={(event) => change(place, { name: event.currentTarget.value.trim() })}
          />
          <Choice
            label="Pace of {student.name}"
            value={String(student.pace ?? 2)}
            options={PACES}
            onchoose={(pace) => change(place, { pace: Number(pace) })}
          />
          <Choice
            label="Face of {student.name}"
            value={student.sitter ?? ''}
            options={sitters}
            onchoose={(sitter) => change(place, { sitter: sitter || null })}
          />
          <Choice
            label="Kit of {student.name}"
            value={student.kit ?? ''}
            options={kits}
            onchoose={(kit) => change(place, { kit: kit || null })}
          />
          <Choice
            label="Partner of {student.name}"
            value={partner(student.name)}
            options={[
              NOBODY,
              ...students
                .filter((each) => each.name !== student.name)
                .map((each) => ({ id: each.name, words: each.name })),
            ]}
            onchoose={(other) => pair(student.name, other)}
          />
          <details class="relative">
            <summary class="btn cursor-pointer"
              >{student.tools ? `${student.tools.length} tools` : 'Tools as shown'}</summary
            >
            <div class="panel absolute z-10 mt-1 grid w-72 grid-cols-2 gap-1 p-2 shadow-raised">
              {#each tools as tool (tool.id)}
                <label class="flex items-center gap-1.5"
                  ><input
                    type="checkbox"
                    class="accent-[var(--accent)]"
                    disabled={fixed}
                    checked={student.tools?.includes(tool.id) ?? false}
                    onchange={(event) => {
                      const rest = (student.tools ?? []).filter((each) => each !== tool.id);
                      const owned = event.currentTarget.checked ? [...rest, tool.id] : rest;
                      change(place, { tools: owned.length ? owned : null });
                    }}
                  />{tool.words}</label
                >
              {/each}
            </div>
          </details>
          <button
            class="btn ml-auto"
            disabled={fixed || students.length === 1}
            onclick={() => remove(student.name)}>Take out</button
          >
        </div>
        <p class="label mt-0.5 tabular-nums">{turns(student.name)}</p>
        {#if lesson?.stop}
          <p class="mt-0.5 border-l-4 border-stop pl-2">{lesson.stop} {lesson.offers.join(' ')}</p>
        {/if}
      </li>
    {/each}
  </ul>
  {#if !found.held}
    <form class="mt-2 flex flex-wrap items-end gap-2" onsubmit={add}>
      <Field label="One more (a nickname)" class="w-48" maxlength={60} bind:value={adding} />
      <button class="btn" disabled={fixed || !adding.trim()}>Add student</button>
    </form>
  {/if}
</section>
