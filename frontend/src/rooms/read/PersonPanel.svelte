<script lang="ts">
  import Download from '@lucide/svelte/icons/download';
  import type { Hair } from '../../api/client';
  import CheckList from '../../parts/CheckList.svelte';
  import Choice from '../../parts/Choice.svelte';
  import { today } from '../../parts/today';
  import { words } from '../../parts/vocabulary.svelte';
  import type { ReadState } from './read.svelte';
  import Field from '../../parts/Field.svelte';

  let { read }: { read: ReadState } = $props();
  const face = $derived(read.face!);

  function rename(event: Event & { currentTarget: HTMLInputElement }) {
    const nickname = event.currentTarget.value.trim();
    if (nickname) read.set({ nickname });
    else event.currentTarget.value = face.record.nickname;
  }
</script>

<section aria-label="Sitter" class="panel flex flex-col gap-3 p-3">
  <h2 class="heading">Sitter</h2>
  <Field
    label="Nickname (never a full name)"
    class="w-full"
    outer="max-w-sm"
    maxlength={60}
    value={face.record.nickname}
    onchange={rename}
  />
  <Field
    label="About"
    class="w-full"
    rows={3}
    maxlength={300}
    value={face.record.about}
    onchange={(event) => read.set({ about: event.currentTarget.value })}
  />
  <div class="flex flex-wrap items-center gap-x-4 gap-y-2">
    <span class="label">Hair</span>
    <Choice
      label="Hair"
      value={face.record.hair ?? 'short'}
      options={words.all?.hairs ?? []}
      onchoose={(hair) => read.set({ hair: hair as Hair })}
    />
  </div>
  <CheckList
    label="Covers or rubs on the face"
    options={words.all?.covered ?? []}
    chosen={face.record.covered ?? []}
    onset={(covered) => read.set({ covered })}
  />
  <div class="flex flex-wrap items-center gap-3">
    <label class="flex items-center gap-1.5"
      ><input
        type="checkbox"
        class="accent-[var(--accent)]"
        checked={face.record.consent_on != null}
        onchange={(event) => read.set({ consent_on: event.currentTarget.checked ? today() : null })}
      />Agreed to this record</label
    >
    {#if face.record.consent_on}
      <Field
        label="on"
        beside
        type="date"
        max={today()}
        value={face.record.consent_on}
        onchange={(event) => {
          if (event.currentTarget.value) read.set({ consent_on: event.currentTarget.value });
        }}
      />
    {:else}
      <b>▲ No consent noted: ask before you read or save anything.</b>
    {/if}
  </div>
  <p class="label">
    A skin record is personal. It stays on this machine, can be taken along whole, and is erased for good when
    the sitter asks (under Sitters).
  </p>
  <a class="btn self-start" href="/api/sitters/{read.id}/everything" download
    ><Download size={15} aria-hidden="true" />Export everything of {face.record.nickname} (zip)</a
  >
</section>
