<script lang="ts">
  import { api, ask, type Schemas } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import Modal from '../../parts/Modal.svelte';
  import NumberField from '../../parts/NumberField.svelte';
  import Field from '../../parts/Field.svelte';
  import { reason } from '../../parts/reason';

  /** A set made by hand: kinds, levels, faces, and whether all get the same. */
  interface Props {
    open: boolean;
    all: Schemas['DrillsWire'];
    faces: Schemas['Named'][];
    onmade: () => Promise<void>;
  }
  let { open = $bindable(), all, faces, onmade }: Props = $props();
  type Part = Schemas['DrillSetBody']['parts'][number];
  const fresh = (): Part => ({ kind: 'corrector', level: 3, count: 3, judgement: null });
  let title = $state('');
  let parts = $state<Part[]>([fresh()]);
  let same = $state(false);
  let timed = $state(false);
  let minutes = $state(20);
  let chosen = $state<string[]>([]);
  let busy = $state(false);
  let refused = $state('');
  const LEVELS = [1, 2, 3, 4, 5].map((each) => ({ id: String(each), words: `Level ${each}` }));

  async function make(event: SubmitEvent) {
    event.preventDefault();
    busy = true;
    refused = '';
    try {
      await ask(
        api.POST('/api/drill/sets', {
          body: {
            title,
            parts,
            same_for_all: same,
            minutes: timed ? minutes : null,
            faces: chosen,
          },
        }),
      );
      [open, title, parts, chosen] = [false, '', [fresh()], []];
      await onmade();
    } catch (error) {
      refused = reason(error);
    }
    busy = false;
  }
</script>

<Modal bind:open title="New set" wide="56">
  {#snippet about()}
    Students open it by its link or code. What somebody began keeps its exercises; its name may change.
  {/snippet}
  <form class="flex flex-col gap-3" onsubmit={make}>
    <Field class="h-control-l" required label="Title" bind:value={title} maxlength={120} />
    <fieldset class="flex flex-col gap-2">
      <legend class="label">Exercises</legend>
      {#each parts as part, place (place)}
        <div class="flex flex-wrap items-end gap-2">
          <NumberField
            label="How many"
            value={part.count ?? 3}
            of="drill_count"
            onset={(found) => (part.count = Math.round(found))}
          />
          <Choice
            label="Kind"
            value={part.kind}
            options={all.kinds.map((each) => ({ id: each.id, words: each.words }))}
            onchoose={(kind) => ((part.kind = kind), (part.judgement = null))}
          />
          <Choice
            label="About"
            value={part.judgement ?? ''}
            options={[
              { id: '', words: 'Anything' },
              ...all.judgements
                .filter((each) => each.kind === part.kind)
                .map((each) => ({ id: each.id, words: each.words })),
            ]}
            onchoose={(id) => (part.judgement = id || null)}
          />
          <Choice
            label="Level"
            value={String(part.level ?? 3)}
            options={LEVELS}
            onchoose={(level) => (part.level = Number(level) as 1)}
          />
          {#if parts.length > 1}<button
              type="button"
              class="btn"
              onclick={() => (parts = parts.filter((_, at) => at !== place))}>Leave out</button
            >{/if}
        </div>
      {/each}
      <div><button type="button" class="btn" onclick={() => parts.push(fresh())}>More exercises</button></div>
    </fieldset>
    <div class="flex flex-wrap items-end gap-4">
      <label class="flex min-h-control-l items-center gap-2"
        ><input type="checkbox" class="size-5 accent-[var(--accent)]" bind:checked={same} /> A test: the same for
        all, marked at the end</label
      >
      <label class="flex min-h-control-l items-center gap-2"
        ><input type="checkbox" class="size-5 accent-[var(--accent)]" bind:checked={timed} /> Timed</label
      >
      {#if timed}<NumberField
          label="Minutes"
          value={minutes}
          of="drill_minutes"
          onset={(found) => (minutes = Math.round(found))}
        />{/if}
    </div>
    {#if faces.length}
      <fieldset>
        <legend class="label"
          >On whose faces: sitters who agreed to their record; drawn faces where none</legend
        >
        <div class="flex flex-wrap gap-x-4">
          {#each faces as face (face.id)}
            <label class="flex min-h-control-l items-center gap-2"
              ><input
                type="checkbox"
                class="size-5 accent-[var(--accent)]"
                value={face.id}
                bind:group={chosen}
              />{face.name}</label
            >
          {/each}
        </div>
      </fieldset>
    {/if}
    {#if refused}<p role="alert" class="text-stop">{refused}</p>{/if}
    <div><button class="btn btn-main" disabled={busy || !title.trim()}>Make it</button></div>
  </form>
</Modal>
