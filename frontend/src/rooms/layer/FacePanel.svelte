<script lang="ts">
  import type { Zone } from '../../api/client';
  import { zonesOf } from '../../plan/steps';
  import Pause from '@lucide/svelte/icons/pause';
  import Play from '@lucide/svelte/icons/play';
  import { onMount } from 'svelte';
  import Choice from '../../parts/Choice.svelte';
  import Face from '../../parts/face/Face.svelte';
  import FaceSlider from '../../parts/face/FaceSlider.svelte';
  import PictureButtons from '../../parts/PictureButtons.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import { shortcuts } from '../../parts/shortcuts.svelte';
  import { Building } from './building.svelte';
  import { FaceState, type Beside } from './face.svelte';
  import OffMap from './OffMap.svelte';
  import type { WorkbenchState } from './workbench.svelte';

  let { bench, big = false }: { bench: WorkbenchState; big?: boolean } = $props();
  const plan = $derived(bench.doc.plan!);
  const face = $derived(new FaceState(bench));
  const building = $derived(new Building(bench));
  let chart = $state<SVGSVGElement>();
  const stageName = $derived(bench.stage.name);
  const chosen = $derived(
    bench.stage.pointed ? [bench.stage.pointed] : bench.stage.step ? zonesOf(bench.stage.step) : [],
  );
  const stage = $derived({ colours: bench.stage.colours, proportions: plan.proportions });
  const pressed = { point: { onpoint: (zone: Zone | null) => (bench.stage.pointed = zone) } };
  const missed = $derived(face.aim?.zones.find((zone) => zone.zone === bench.stage.pointed));
  const options = $derived([
    { id: 'nothing' as Beside, words: 'Nothing' },
    { id: 'bare' as Beside, words: 'Bare skin' },
    { id: 'aim' as Beside, words: 'The complexion aimed at' },
    { id: 'off' as Beside, words: 'How far from the aim' },
    ...face.versions.map((version) => ({
      id: `version ${version.number}` as Beside,
      words: face.called(version),
    })),
  ]);

  onMount(() => {
    const undeclare = shortcuts.declare([
      { keys: 'b', does: 'Build the base layer by layer; again to stop', run: () => building.toggle() },
    ]);
    return () => {
      undeclare();
      building.stop();
    };
  });

  $effect(() => {
    // Asked anew when layer, light or plan change.
    if (plan.revision && bench.stage.shown >= -1 && bench.doc.light) void face.ask();
  });
</script>

<section aria-label="The face" class={big ? 'flex min-h-0 grow flex-col' : ''}>
  <div class="flex flex-col {big ? 'min-h-64 grow' : face.beside === 'off' ? 'h-80' : 'h-64'}">
    {#if face.beside === 'off' && face.aim}
      <OffMap
        bind:drawing={chart}
        aim={face.aim}
        proportions={plan.proportions}
        pointed={bench.stage.pointed}
        label="How far {plan.nickname} is from the aim, {stageName}. {face.aim.says}"
        {pressed}
      />
    {:else if face.other}
      <FaceSlider
        left={{ ...stage, words: stageName }}
        right={{ ...face.other, proportions: plan.proportions }}
        {chosen}
        {pressed}
      />
    {:else}
      <Face
        bind:drawing={chart}
        label="{plan.nickname}, {stageName}, in {words.light(plan.light).toLowerCase()}"
        drawn={stage}
        shown={{ chosen }}
        {pressed}
      />
    {/if}
  </div>
  {#if face.beside === 'off' && face.aim}
    <p class="min-h-10 text-xs" role="status">
      {#if missed}<b>{words.zone(missed.zone)}</b>:
        {missed.purpose || `${missed.de.toFixed(1)} ΔE00, ${missed.says}`}{:else}{face.aim.says}{/if}
    </p>
  {/if}
  <div class="no-print mt-1 flex flex-wrap items-center gap-2 text-xs">
    <span>Beside</span>
    <Choice
      label="Beside"
      value={face.beside}
      {options}
      onopen={() => void face.listed()}
      onchoose={(next) => (face.beside = next)}
    />
    {#if !face.other}
      <span class="ml-auto"><PictureButtons drawing={chart} name="{plan.nickname}-face" of="the face" /></span
      >
    {/if}
  </div>
  <div class="no-print mt-1 flex items-center gap-2 text-xs">
    <button
      class="btn h-control-s px-1.5"
      aria-label={building.running ? 'Stop building' : 'Build the base layer by layer'}
      title={building.running ? 'Stop building (b)' : 'Build the base layer by layer (b)'}
      onclick={() => building.toggle()}
      >{#if building.running}<Pause size={14} aria-hidden="true" />{:else}<Play
          size={14}
          aria-hidden="true"
        />{/if}</button
    >
    <span class="w-24 shrink-0">Layer {bench.stage.shown + 1} of {plan.steps.length}</span>
    <input
      type="range"
      class="min-w-0 grow accent-[var(--accent)]"
      min="-1"
      max={plan.steps.length - 1}
      value={bench.stage.shown}
      aria-label="Layer shown"
      aria-valuetext={stageName}
      oninput={(event) => bench.stage.choose(Number(event.currentTarget.value))}
    />
  </div>
</section>
