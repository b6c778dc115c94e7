<script lang="ts">
  import X from '@lucide/svelte/icons/x';
  import type { CandidateSpec, Light, School, Weighing } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import Face from '../../parts/face/Face.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import { finished, LETTERS, type WeighState } from './weigh.svelte';

  interface Props {
    weigh: WeighState;
    each: Weighing['candidates'][number];
    place: number;
    ontake: () => void;
  }

  let { weigh, each, place, ontake }: Props = $props();
  const letter = $derived(LETTERS[place] ?? '');
  const spec = $derived<CandidateSpec>(weigh.specs[place] ?? { light: 'daylight' });
  const many = $derived(weigh.candidates.length > 2);
  const suits = $derived(weigh.found?.as_good.includes(place));
</script>

<section class="flex min-w-0 flex-col gap-1.5 border-l border-line px-2.5" aria-label="Candidate {letter}">
  <div class="flex items-start gap-1 {many ? 'min-h-12' : ''}">
    <h2 class="heading grow text-base">
      {letter}. <span class="first-letter:uppercase">{each.words}</span>
      {#if each.current}<span class="label">(this plan)</span>{/if}
      {#if suits}<span class="label font-semibold whitespace-nowrap"
          >★ {weigh.found?.as_good.length === 1 ? 'suits best' : 'suits as well as any'}</span
        >{/if}
    </h2>
    {#if many}
      <button
        class="btn no-print h-control-s px-1.5"
        aria-label="Leave candidate {letter} out"
        disabled={weigh.busy}
        onclick={() => weigh.drop(place)}><X size={14} aria-hidden="true" /></button
      >
    {/if}
  </div>
  <div class="no-print gap-1 {many ? 'grid' : 'flex flex-wrap'}">
    {#if weigh.versions.length}
      <Choice
        label="Version of {letter}"
        wide={many}
        value={String(spec.version ?? '')}
        options={[
          { id: '', words: 'Current version' },
          ...weigh.versions.map((version) => ({ id: String(version.number), words: version.name ?? '' })),
        ]}
        onchoose={(number) =>
          weigh.change(place, { version: number ? Number(number) : null, foundation: null })}
      />
    {/if}
    <Choice
      label="School of {letter}"
      wide={many}
      value={each.plan.school}
      options={(words.all?.schools ?? []).map((school) => ({
        id: school.id as School,
        words: school.words,
      }))}
      onchoose={(school) => weigh.change(place, { school, foundation: null })}
    />
    {#if weigh.found?.foundations.length}
      <Choice
        label="Foundation of {letter}"
        wide={many}
        value={spec.foundation ?? ''}
        options={[
          { id: '', words: 'Its own foundation' },
          ...weigh.found.foundations.map((item) => ({ id: item.id, words: item.name })),
        ]}
        onchoose={(foundation) => weigh.change(place, { foundation: foundation || null })}
      />
    {/if}
    <Choice
      label="Light of {letter}"
      wide={many}
      value={each.plan.light}
      options={(words.all?.lights ?? []).map((light) => ({ id: light.id as Light, words: light.words }))}
      onchoose={(light) => weigh.change(place, { light })}
    />
  </div>
  <div class="h-56">
    <Face
      label="{letter}, {each.words}: the finished base in {words.light(each.plan.light).toLowerCase()}"
      drawn={finished(each.plan)}
      shown={{ chosen: weigh.pointed ? [weigh.pointed] : [] }}
      pressed={{ point: { onpoint: (zone) => (weigh.pointed = zone) } }}
    />
  </div>
  <p class="text-xs"><b>For it</b> {each.speaks_for.join('; ') || 'nothing in particular'}</p>
  <p class="text-xs"><b>Against it</b> {each.speaks_against.join('; ') || 'nothing in particular'}</p>
  <button class="btn btn-main no-print mt-auto self-start" disabled={weigh.busy} onclick={ontake}
    >{each.current ? 'Stay with' : 'Take'} {letter}</button
  >
</section>
