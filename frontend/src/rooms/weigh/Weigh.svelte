<script lang="ts">
  import { onMount } from 'svelte';
  import Plus from '@lucide/svelte/icons/plus';
  import X from '@lucide/svelte/icons/x';
  import type { CandidateSpec, Light, School, Zone } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import FaceMap from '../../parts/FaceMap.svelte';
  import FaceSlider from '../../parts/FaceSlider.svelte';
  import RoomBar from '../../parts/RoomBar.svelte';
  import { shortcuts } from '../../parts/shortcuts.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import { navigate, p, route } from '../../router';
  import Section from '../layer/Section.svelte';
  import { MOST, WeighState } from './weigh.svelte';

  const id = $derived(route.pathname.split('/')[2] ?? '');
  const weigh = $derived(new WeighState(id));
  const candidates = $derived(weigh.found?.candidates ?? []);
  const LETTERS = ['A', 'B', 'C', 'D'];
  let pointed = $state<Zone | null>(null);
  const tallest = $derived(
    Math.max(
      ...candidates.flatMap(({ plan }) =>
        Object.values(plan.forecast).flatMap((zone) => [zone.limit_um, zone.load_um]),
      ),
      10,
    ),
  );
  const SIDES = [
    { at: 0, words: "Viewer's left" },
    { at: 1, words: "Viewer's right" },
  ] as const;
  let halves = $state<[number, number]>([0, 1]);
  const one = $derived(candidates[halves[0]] ?? candidates[0]);
  const other = $derived(candidates[halves[1]] ?? candidates[1]);
  const foundations = $derived(weigh.foundations);

  onMount(() =>
    shortcuts.declare([
      { keys: 'a', does: 'Add a candidate', run: () => void (weigh.specs.length < MOST && weigh.add()) },
      { keys: 'l', does: 'Back to the Layer room', run: () => void back() },
    ]),
  );

  async function back() {
    await navigate('/plans/:id', { params: { id } });
  }

  async function take(place: number) {
    if (await weigh.take(place)) await back();
  }

  function colours(plan: (typeof candidates)[number]['plan']): Record<Zone, string> {
    const last = plan.stages.at(-1) ?? [];
    return Object.fromEntries(
      (words.all?.zones ?? []).map((zone, place) => [zone.id, last[place] ?? '#808080']),
    ) as Record<Zone, string>;
  }

  function figure(value: number, decimals: number): string {
    return value.toFixed(decimals);
  }

  const spec = (place: number): CandidateSpec => weigh.specs[place] ?? { light: 'daylight' };
</script>

<svelte:head
  ><title>{candidates[0] ? `${candidates[0].plan.nickname} – ` : ''}Weigh – Nabrel</title></svelte:head
>

<div class="flex h-full flex-col">
  <RoomBar>
    <h1 class="flex gap-1.5 font-semibold">
      {#if candidates[0]}<a class="underline" href={p('/plans/:id', { params: { id } })}
          >{candidates[0].plan.title || candidates[0].plan.nickname}</a
        >{/if}
      <span>Weigh</span>
    </h1>
    <button
      class="btn"
      title="Add a candidate (a)"
      disabled={weigh.busy || !weigh.found || weigh.specs.length >= MOST}
      onclick={() => weigh.add()}><Plus size={15} aria-hidden="true" />Candidate</button
    >
    <span class="label" role="status">{weigh.busy ? 'Weighing…' : ''}</span>
  </RoomBar>
  {#if weigh.failed}
    <main class="grid grow place-items-center p-4">
      <div class="panel max-w-lg p-6" role="alert">
        <h2 class="heading text-lg">This plan could not be weighed</h2>
        <p class="my-2">{weigh.failed}</p>
        <button class="btn" onclick={() => weigh.open()}>Try again</button>
        <a class="btn" href={p('/')}>To the sitters</a>
      </div>
    </main>
  {:else if !weigh.found}
    <main class="grid grow place-items-center"><p role="status">Planning the candidates…</p></main>
  {:else}
    <main class="flex min-h-0 grow flex-col gap-2 overflow-auto p-2" aria-busy={weigh.busy}>
      <p class="panel p-2.5">
        For this face <b>{words.school(weigh.found.recommended)}</b> is recommended: {weigh.found.says}
      </p>
      <div class="grid gap-2 md:grid-cols-2 {candidates.length > 2 ? '2xl:grid-cols-4' : ''}">
        {#each candidates as each, place (place)}
          <section class="panel min-w-0 p-2.5" aria-label="Candidate {LETTERS[place]}">
            <div class="flex items-start gap-2">
              <h2 class="heading grow text-base">
                {LETTERS[place]}. <span class="first-letter:uppercase">{each.words}</span>
                {#if each.stands}<span class="label">(this plan)</span>{/if}
              </h2>
              {#if candidates.length > 2}
                <button
                  class="btn h-7 px-1.5"
                  aria-label="Leave candidate {LETTERS[place]} out"
                  disabled={weigh.busy}
                  onclick={() => weigh.drop(place)}><X size={14} aria-hidden="true" /></button
                >
              {/if}
            </div>
            <div class="no-print my-1.5 flex flex-wrap gap-1">
              {#if weigh.versions.length}
                <Choice
                  label="Version of {LETTERS[place]}"
                  value={String(spec(place).version ?? '')}
                  options={[
                    { id: '', words: 'As it stands' },
                    ...weigh.versions.map((version) => ({
                      id: String(version.number),
                      words: version.name ?? '',
                    })),
                  ]}
                  onchoose={(number) =>
                    weigh.change(place, { version: number ? Number(number) : null, foundation: null })}
                />
              {/if}
              <Choice
                label="School of {LETTERS[place]}"
                value={each.plan.school}
                options={(words.all?.schools ?? []).map((school) => ({
                  id: school.id as School,
                  words: school.words,
                }))}
                onchoose={(school) => weigh.change(place, { school, foundation: null })}
              />
              {#if foundations.length}
                <Choice
                  label="Foundation of {LETTERS[place]}"
                  value={spec(place).foundation ?? ''}
                  options={[
                    { id: '', words: 'Its own foundation' },
                    ...foundations.map((item) => ({ id: item.id, words: item.name })),
                  ]}
                  onchoose={(foundation) => weigh.change(place, { foundation: foundation || null })}
                />
              {/if}
              <Choice
                label="Light of {LETTERS[place]}"
                value={each.plan.light}
                options={(words.all?.lights ?? []).map((light) => ({
                  id: light.id as Light,
                  words: light.words,
                }))}
                onchoose={(light) => weigh.change(place, { light })}
              />
            </div>
            <div class="h-64">
              <FaceMap
                colours={colours(each.plan)}
                proportions={each.plan.proportions}
                chosen={pointed ? [pointed] : []}
                label="{LETTERS[place]}, {each.words}: the finished base in {words
                  .light(each.plan.light)
                  .toLowerCase()}"
                onpoint={(zone) => (pointed = zone)}
              />
            </div>
            <Section
              plan={each.plan}
              at={each.plan.steps.length - 1}
              {pointed}
              {tallest}
              label="Section of {LETTERS[place]}"
              quiet
              onchoose={() => undefined}
              onpoint={(zone) => (pointed = zone)}
            />
            <button class="btn btn-main no-print mt-2" disabled={weigh.busy} onclick={() => take(place)}
              >{each.stands ? 'Stay with' : 'Take'} {LETTERS[place]}</button
            >
          </section>
        {/each}
      </div>
      <section class="panel p-2.5" aria-label="Half faces">
        <div class="flex flex-wrap items-center gap-2">
          <h2 class="heading">On one face</h2>
          {#each SIDES as side (side.words)}
            <Choice
              label={side.words}
              value={String(halves[side.at])}
              options={candidates.map((each, place) => ({
                id: String(place),
                words: `${LETTERS[place]}. ${each.words}`,
              }))}
              onchoose={(place) =>
                (halves = side.at ? [halves[0], Number(place)] : [Number(place), halves[1]])}
            />
          {/each}
        </div>
        {#if one && other}
          <div class="flex h-96 flex-col">
            <FaceSlider
              proportions={one.plan.proportions}
              left={{ colours: colours(one.plan), words: one.words }}
              right={{ colours: colours(other.plan), words: other.words }}
            />
          </div>
        {/if}
      </section>
      <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
      <section class="panel overflow-x-auto p-2.5" aria-label="Figures that differ" tabindex="0">
        <h2 class="heading mb-1">Figures that differ</h2>
        {#if weigh.found.figures.length}
          <table class="w-full">
            <thead>
              <tr class="label text-left">
                <th class="p-1 font-normal">Figure</th>
                {#each candidates as each, place (place)}<th class="p-1 text-right font-normal"
                    >{LETTERS[place]} <span class="sr-only">{each.words}</span></th
                  >{/each}
              </tr>
            </thead>
            <tbody>
              {#each weigh.found.figures as row (row.name)}
                <tr class="border-t border-line">
                  <th scope="row" class="p-1 text-left font-normal"
                    >{row.name}{row.unit ? `, ${row.unit}` : ''}
                    <span class="label">{row.better === 'neither' ? '' : `${row.better} is better`}</span></th
                  >
                  {#each row.values as value, place (place)}
                    <td class="p-1 text-right {row.best.includes(place) ? 'font-bold' : ''}"
                      >{#if row.best.includes(place)}★ best
                      {/if}{figure(value, row.decimals)}</td
                    >
                  {/each}
                </tr>
              {/each}
            </tbody>
          </table>
        {:else}<p>Nothing differs: they are the same base.</p>{/if}
      </section>
      <p class="label px-1">
        A planning aid, not a measurement of a person. Local hygiene codes and licensed practice come first.
      </p>
    </main>
  {/if}
</div>
