<script lang="ts">
  import type { ClassShown } from '../../api/client';

  /** What differs on every student's face from what is demonstrated, and what they use for tools they do not have. */
  let { found }: { found: ClassShown } = $props();
  const more = $derived(new Map(found.students.map((each) => [each.name, each])));
</script>

<div class="grid gap-2 lg:grid-cols-2">
  {#each found.lesson.students as student (student.name)}
    {@const own = more.get(student.name)}
    <section class="panel p-2.5" aria-label={student.name}>
      <h2 class="heading">
        {student.name}{student.face && student.face !== student.name ? `, on ${student.face}` : ''}
      </h2>
      {#if student.stop}
        <p class="border-l-4 border-stop pl-2"><b>{student.stop}</b> {student.offers.join(' ')}</p>
      {:else if !own?.nickname && !student.differs.length}
        <p class="label">Face not known: worked as demonstrated. Use “If your skin …”.</p>
      {:else if !student.differs.length}
        <p class="label">Nothing differs from what is shown.</p>
      {/if}
      {#if student.differs.length}
        <ul>
          {#each student.differs as each, place (place)}
            <li class="border-t border-line py-0.5">
              {each.says} <span class="label">{each.why}</span>
            </li>
          {/each}
        </ul>
      {/if}
      {#each own?.stand_ins ?? [] as each (each.tool)}
        <p class="border-t border-line py-0.5">{each.says}</p>
      {/each}
      {#if own?.brings.length}<p class="label mt-1">
          Brings {own.brings.length} items of their own.
        </p>{/if}
    </section>
  {/each}
</div>
