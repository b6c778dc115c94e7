<script lang="ts">
  import { untrack } from 'svelte';
  import { api, ask, type ClassList } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import { inHand } from '../../parts/in-hand.svelte';
  import Modal from '../../parts/Modal.svelte';
  import NumberField from '../../parts/NumberField.svelte';
  import Field from '../../parts/Field.svelte';
  import { navigate } from '../../router';
  import { reason } from '../../parts/reason';

  /** Announce a class: what, when, for how many; who comes is said in the class itself. */
  let { open = $bindable(), lists }: { open: boolean; lists: ClassList } = $props();
  let title = $state('');
  let course = $state(untrack(() => lists.courses.at(-1)?.course ?? ''));
  let date = $state(untrack(() => lists.today));
  let start = $state('18:30');
  let until = $state('21:00');
  let plan = $state(
    untrack(() => lists.plans.find((each) => each.id === inHand.plan?.id)?.id ?? lists.plans[0]?.id ?? ''),
  );
  let stations = $state(6);
  let names = $state('');
  let busy = $state(false);
  let refused = $state('');
  const listed = $derived(
    names
      .split(/[\n,;]+/)
      .map((each) => each.trim())
      .filter(Boolean),
  );

  async function announce(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    refused = '';
    const students = (
      listed.length ? listed : Array.from({ length: stations }, (_, n) => `Student ${n + 1}`)
    ).map((name) => ({
      name,
      pace: 2,
      sitter: lists.sitters.find((each) => each.name === name)?.id ?? null,
    }));
    try {
      const made = await ask(
        api.POST('/api/classes', {
          body: { title, course, date, start, until: until || null, plan, stations, students },
        }),
      );
      await navigate('/class/:id', { params: { id: made.id } });
    } catch (error) {
      refused = reason(error);
    }
    busy = false;
  }
</script>

<Modal bind:open title="New class" wide="34">
  {#snippet about()}
    Everything can be changed later. A student whose name is that of a sitter here gets a plan for their own
    face.
  {/snippet}
  {#snippet actions()}
    <button class="btn btn-main" form="new-class" disabled={busy || !plan}>Announce</button>
  {/snippet}
  <form id="new-class" class="grid gap-2 sm:grid-cols-2" onsubmit={announce}>
    <div class="sm:col-span-2">
      <Field class="h-control-l" required label="What it is called" bind:value={title} maxlength={120} />
    </div>
    <Field class="h-control-l" label="Course (may be empty)" bind:value={course} maxlength={120} />
    <div class="flex flex-col">
      <span class="label">Plan that is taught</span>
      <Choice
        label="Plan that is taught"
        value={plan}
        options={lists.plans.map((each) => ({ id: each.id, words: each.name }))}
        onchoose={(id) => (plan = id)}
        wide
      />
    </div>
    <Field class="h-control-l" required label="Day" type="date" bind:value={date} />
    <div class="grid grid-cols-2 gap-2">
      <Field class="h-control-l" required label="From" type="time" bind:value={start} />
      <Field class="h-control-l" label="Room until" type="time" bind:value={until} />
    </div>
    <NumberField
      label="Stations"
      value={stations}
      of="stations"
      onset={(value) => (stations = Math.round(value))}
    />
    <Field
      label="Students, one a line (nicknames)"
      outer="sm:col-span-2"
      rows={4}
      bind:value={names}
      placeholder="Student 1, Student 2"
    />
    {#if refused}<p class="sm:col-span-2" role="alert">{refused}</p>{/if}
  </form>
</Modal>
