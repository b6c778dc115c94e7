<script lang="ts">
  import { onMount } from 'svelte';
  import { api, ask } from '../../api/client';
  import Damaged from '../../parts/Damaged.svelte';
  import RoomBar from '../../parts/RoomBar.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import { p } from '../../router';
  import NewClass from './NewClass.svelte';
  import Awaited from '../../parts/Awaited.svelte';
  import { Resource } from '../../parts/resource.svelte';

  let making = $state(false);
  const STANDING = { to_come: 'to come', under_way: 'under way', held: 'held' } as const;

  const all = new Resource(async () => {
    const [found] = await Promise.all([ask(api.GET('/api/classes')), words.load()]);
    return found;
  });
  const lists = $derived(all.value);

  const day = (text: string) =>
    new Date(`${text}T12:00`).toLocaleDateString([], { weekday: 'short', day: 'numeric', month: 'long' });

  onMount(() => void all.load());
</script>

<svelte:head><title>Class · Nabrel</title></svelte:head>

<div class="flex h-full flex-col">
  <RoomBar room="class">
    <h1 class="font-semibold">Class</h1>
    <span class="ml-auto"></span>
    <button class="btn btn-main" disabled={!lists?.plans.length} onclick={() => (making = true)}
      >New class</button
    >
  </RoomBar>
  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <main class="min-h-0 grow overflow-auto p-2" tabindex="0">
    <Damaged kinds={['class']} onerased={() => void all.load()} />
    {#if all.failed || !lists}
      <Awaited of={all} says="The classes could not be loaded" />
    {:else if !lists.courses.length}
      <section class="panel max-w-2xl p-4">
        <h2 class="heading">No classes yet</h2>
        <p class="mt-1">
          A class teaches one plan to a room: who practises at which station and when, what is weighed out,
          and what differs on every face.
          {#if lists.plans.length}Choose a plan, a day and who comes.{:else}Make a plan first.{/if}
        </p>
        {#if !lists.plans.length}<a class="btn mt-2" href={p('/')}>To the sitters</a>{/if}
      </section>
    {:else}
      <div class="flex max-w-5xl flex-col gap-3">
        {#each lists.courses as course (course.course)}
          <section class="panel p-3" aria-label={course.course || 'Single classes'}>
            <div class="flex flex-wrap items-baseline justify-between gap-x-4">
              <h2 class="text-base font-semibold">{course.course || 'Single classes'}</h2>
              <span class="label"
                >{course.classes.length === 1 ? '1 class' : `${course.classes.length} classes`}, {course.held} held</span
              >
            </div>
            {#if course.taught.length}
              <p class="label mb-1">Taught so far: {course.taught.join(', ').toLowerCase()}.</p>
            {/if}
            <ul>
              {#each course.classes as each (each.id)}
                <li
                  class="flex flex-wrap items-center gap-x-4 gap-y-1 border-t border-line py-1 {each.id ===
                  lists.next
                    ? 'bg-accent-soft'
                    : ''}"
                >
                  <a
                    class="flex min-w-0 grow flex-wrap items-baseline gap-x-3 px-1 py-1.5 hover:underline"
                    href={p('/class/:id', { params: { id: each.id } })}
                  >
                    <span class="w-40 shrink-0 tabular-nums">{day(each.date)}, {each.start}</span>
                    <b class="min-w-0 break-words">{each.title}</b>
                    <span class="label"
                      >{each.nickname}; {each.students === 1 ? '1 student' : `${each.students} students`} at {each.stations ===
                      1
                        ? '1 station'
                        : `${each.stations} stations`}</span
                    >
                  </a>
                  <span class="label w-20">{each.id === lists.next ? 'next' : STANDING[each.standing]}</span>
                  {#if each.standing === 'held'}
                    <a class="btn" href={p('/recap/:id', { params: { id: each.id } })}>Recap</a>
                  {:else}
                    <a class="btn" href={p('/round/:id', { params: { id: each.id } })}>Teach</a>
                  {/if}
                </li>
              {/each}
            </ul>
          </section>
        {/each}
      </div>
    {/if}
  </main>
</div>

{#if lists}<NewClass bind:open={making} {lists} />{/if}
