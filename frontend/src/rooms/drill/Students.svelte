<script lang="ts">
  import { onMount } from 'svelte';
  import { api, ask } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import FileButton from '../../parts/FileButton.svelte';
  import Help from '../../parts/Help.svelte';
  import Modal from '../../parts/Modal.svelte';
  import RoomBar from '../../parts/RoomBar.svelte';
  import Field from '../../parts/Field.svelte';
  import { sent } from '../../parts/sending';
  import { tried } from '../../parts/tried';
  import { p } from '../../router';
  import DrillTabs from './DrillTabs.svelte';
  import Awaited from '../../parts/Awaited.svelte';
  import { Resource } from '../../parts/resource.svelte';

  /** The group at a glance: who needs what, and which exercises are too easy, too hard or disputed. */
  let chosen = $state('');
  const all = new Resource(() =>
    ask(api.GET('/api/drill/students', { params: { query: chosen ? { group: chosen } : {} } })),
  );
  const group = $derived(all.value);
  let adding = $state(false);
  let name = $state('');
  let course = $state('');
  let busy = $state(false);
  const percent = (share: number) => `${Math.round(100 * share)} %`;

  async function bring(file: File) {
    const body = await sent(file, 'application/json');
    await tried(ask(api.POST('/api/drill/students/file', body)));
    await all.load();
  }

  async function add(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    const found = await tried(ask(api.POST('/api/drill/students', { body: { name, group: course } })));
    busy = false;
    if (!found) return;
    name = '';
    adding = false;
    await all.load();
  }

  function last(at: string) {
    return at ? new Date(at).toLocaleDateString([], { day: 'numeric', month: 'short' }) : 'never';
  }

  onMount(() => void all.load());
</script>

<svelte:head><title>Students · Drill · Nabrel</title></svelte:head>

<div class="flex h-full flex-col">
  <RoomBar room="drill">
    <h1 class="font-semibold">Students</h1>
    <DrillTabs at="students" />
    {#if group && group.groups.length}
      <Choice
        label="Group"
        value={chosen}
        options={[{ id: '', words: 'Everybody' }, ...group.groups.map((each) => ({ id: each, words: each }))]}
        onchoose={(each) => ((chosen = each), void all.load())}
      />
    {/if}
    <span class="ml-auto"></span>
    {#if group?.members.length}<a
        class="btn"
        href="/api/drill/results{chosen ? `?group=${encodeURIComponent(chosen)}` : ''}"
        download>Results (CSV)</a
      >{/if}
    <FileButton words="Import" label="Practice file" accept=".json,application/json" onfile={bring} />
    <button class="btn btn-main" onclick={() => (adding = true)}>Add a student</button>
  </RoomBar>
  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <main class="min-h-0 grow overflow-auto p-2" tabindex="0">
    {#if all.failed || !group}
      <Awaited of={all} says="The students could not be loaded" />
    {:else if !group.members.length}
      <section class="panel max-w-2xl p-4">
        <h2 class="heading">Nobody practises yet</h2>
        <p class="mt-1">
          Add your students: each gets a map of what they know, is asked what fades, and you see who needs
          what. Without a name anybody may practise, and nothing is kept.
        </p>
      </section>
    {:else}
      <div class="grid gap-2 xl:grid-cols-[3fr_2fr]">
        <section class="panel overflow-x-auto p-3" aria-label="At a glance">
          <h2 class="heading">At a glance</h2>
          <table class="w-full min-w-[40rem] [&_td]:px-2 [&_th]:px-2">
            <thead>
              <tr class="label text-left">
                <th class="py-1 font-normal">Student</th><th class="font-normal">Level <Help of="skill" /></th
                >
                <th class="font-normal">Recalled <Help of="recall" /></th><th class="font-normal"
                  >Practised</th
                >
                <th class="font-normal">Fades</th><th class="font-normal">This week</th>
                <th class="font-normal">Last</th><th class="font-normal">Needs most</th>
              </tr>
            </thead>
            <tbody>
              {#each group.members as each (each.id)}
                <tr class="border-t border-line align-top">
                  <th scope="row" class="py-1 pr-2 text-left font-semibold"
                    ><a class="underline" href={p('/drill/students/:id', { params: { id: each.id } })}
                      >{each.name}</a
                    ></th
                  >
                  <td title={each.fits}>{each.level}</td>
                  <td class="tabular-nums">{each.practised ? percent(each.remembered) : '–'}</td>
                  <td class="whitespace-nowrap tabular-nums">{each.practised} of {group.judgements}</td>
                  <td class="tabular-nums">{each.due}</td>
                  <td class="tabular-nums">{each.this_week}</td>
                  <td class="whitespace-nowrap">{last(each.last)}</td>
                  <td class="text-xs">{each.weakest.map((row) => row.words).join('; ') || 'nothing'}</td>
                </tr>
              {/each}
            </tbody>
          </table>
        </section>
        <div class="flex flex-col gap-2">
          <section class="panel p-3" aria-label="Who needs what">
            <h2 class="heading">Who needs what</h2>
            <ul>
              {#each group.needs.slice(0, 8) as each (each.judgement.id)}
                <li class="border-t border-line py-1">
                  <p>
                    <a class="underline" href={p('/drill', { search: { kind: each.judgement.kind } })}
                      >{each.judgement.words}</a
                    >
                    <span class="label">{percent(each.recalled)} recalled by the group</span>
                  </p>
                  <p class="label">{each.students.join(', ')}</p>
                </li>
              {:else}<li class="text-quiet">Nothing stands out.</li>{/each}
            </ul>
          </section>
          <section class="panel p-3" aria-label="Exercises to look at">
            <h2 class="heading">Exercises to look at</h2>
            <ul>
              {#each group.items.slice(0, 10) as each, place (place)}
                <li class="border-t border-line py-1">
                  <p>
                    <b>{each.words}:</b>
                    {each.judgement.words}, level {each.level}{each.title ? ` (${each.title})` : ''}
                  </p>
                  <p class="label">
                    {percent(each.right)} right, {percent(each.expected)} expected, {each.answers} answers by {each.students}
                    students{each.commonest_wrong && each.verdict !== 'too_easy'
                      ? `. Most gave: ${each.commonest_wrong}`
                      : ''}
                  </p>
                </li>
              {:else}<li class="text-quiet">
                  None is too easy, too hard or disputed by the answers so far.
                </li>{/each}
            </ul>
          </section>
        </div>
      </div>
    {/if}
  </main>
</div>

<Modal bind:open={adding} title="Add a student" wide="34">
  {#snippet about()}
    A nickname is enough. A student whose name is that of a sitter here is that sitter, and goes when the
    sitter is erased; one who signs in practises under the name of their account.
  {/snippet}
  <form class="flex flex-wrap items-end gap-2" onsubmit={add}>
    <Field class="h-control-l" required label="Name" bind:value={name} maxlength={60} />
    <Field class="h-control-l" label="Group" bind:value={course} maxlength={120} />
    <button class="btn btn-main" disabled={busy || !name.trim()}>Add</button>
  </form>
</Modal>
