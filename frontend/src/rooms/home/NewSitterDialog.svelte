<script lang="ts">
  import { api, ask, type Lab, type Preset } from '../../api/client';
  import type { JudgedColour } from '../../parts/ByEye.svelte';
  import Choice from '../../parts/Choice.svelte';
  import ColourJudge from '../../parts/ColourJudge.svelte';
  import { Draft } from '../../parts/draft.svelte';
  import { inHand } from '../../parts/in-hand.svelte';
  import Modal from '../../parts/Modal.svelte';
  import Swatch from '../../parts/Swatch.svelte';
  import { notices } from '../../parts/notices.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import { today } from '../../parts/today';
  import { navigate } from '../../router';
  import Field from '../../parts/Field.svelte';

  let { open = $bindable() }: { open: boolean } = $props();
  const nickname = new Draft('new sitter');
  let text = $state('');
  let judged = $state.raw<JudgedColour | null>(null);
  let preset = $state<Preset>('normal');
  let agreed = $state(false);
  let seen = $state.raw<{ lab: number[]; hex: string; depth: string } | null>(null);

  async function look() {
    try {
      seen = await ask(api.POST('/api/colour', { body: { text } }));
    } catch (error) {
      seen = null;
      notices.refuse(error);
    }
  }

  async function begin(event: SubmitEvent) {
    event.preventDefault();
    if (text.trim()) await look();
    const skin = text.trim() ? seen?.lab : judged?.lab;
    if (!skin) return;
    try {
      const face = await ask(
        api.POST('/api/faces', {
          body: {
            nickname: nickname.text,
            skin: skin as Lab,
            lab_sd: text.trim() ? null : (judged?.labSd ?? null),
            source: text.trim() ? null : (judged?.source ?? null),
            preset,
            consent_on: agreed ? today() : null,
          },
        }),
      );
      // Here, not once Read has read the face: who goes on before that has this sitter in hand too.
      inHand.takeSitter({ id: face.id, name: nickname.text.trim() }, null);
      open = false;
      nickname.text = '';
      await navigate('/read/:id', { params: { id: face.id } });
    } catch (error) {
      notices.refuse(error);
    }
  }
</script>

<Modal bind:open title="New sitter" wide="56">
  {#snippet about()}A nickname, a first colour by eye and a starting point; the rest is read next.{/snippet}
  <form class="flex flex-col gap-3" onsubmit={begin}>
    <Field label="Nickname (never a full name)" maxlength={60} bind:value={nickname.text} />
    <fieldset>
      <legend class="label">Skin</legend>
      <ColourJudge onjudged={(found) => (judged = found)} />
      {#if judged && !text.trim()}
        <p class="mt-1 flex items-center gap-2" aria-live="polite">
          <Swatch hex={judged.hex} size={28} />{judged.says}
        </p>
      {/if}
      <div class="mt-2 flex flex-wrap items-center gap-2">
        <Field
          label="Or measured, as L* a* b* or hex"
          beside
          outer="flex-wrap gap-2"
          class="w-44"
          maxlength={80}
          placeholder="62 11 17"
          bind:value={text}
          onchange={() => (text.trim() ? look() : (seen = null))}
        />{#if seen && text.trim()}<Swatch hex={seen.hex} size={28} />{seen.depth}{/if}
      </div>
    </fieldset>
    <div>
      <p class="label">Preset</p>
      <Choice
        label="Preset"
        value={preset}
        options={(words.all?.presets ?? []).map((each) => ({ id: each.id, words: each.words }))}
        onchoose={(next) => (preset = next)}
      />
    </div>
    <label class="flex items-center gap-1.5"
      ><input type="checkbox" class="accent-[var(--accent)]" bind:checked={agreed} />The sitter agreed to this
      record today</label
    >
    <button class="btn btn-main self-start" disabled={!nickname.text.trim() || !(judged || text.trim())}
      >Read the face</button
    >
  </form>
</Modal>
