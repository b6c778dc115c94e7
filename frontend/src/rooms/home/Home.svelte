<script lang="ts">
  import { onMount } from 'svelte';
  import ScanFace from '@lucide/svelte/icons/scan-face';
  import UserPlus from '@lucide/svelte/icons/user-plus';
  import Eraser from '@lucide/svelte/icons/eraser';
  import Layers from '@lucide/svelte/icons/layers';
  import Route from '@lucide/svelte/icons/route';
  import Upload from '@lucide/svelte/icons/upload';
  import Download from '@lucide/svelte/icons/download';
  import type { Zone } from '../../api/client';
  import Damaged from '../../parts/Damaged.svelte';
  import { asRead } from '../../parts/face/colours';
  import Face from '../../parts/face/Face.svelte';
  import { firstSteps } from '../../parts/first-steps.svelte';
  import { inHand } from '../../parts/in-hand.svelte';
  import Mentions from '../../parts/Mentions.svelte';
  import Modal from '../../parts/Modal.svelte';
  import RoomBar from '../../parts/RoomBar.svelte';
  import Swatch from '../../parts/Swatch.svelte';
  import { shortcuts } from '../../parts/shortcuts.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import { navigate, p, route } from '../../router';
  import PlansList from './PlansList.svelte';
  import WorkspaceMenu from './WorkspaceMenu.svelte';
  import { HomeState } from './home.svelte';
  import Awaited from '../../parts/Awaited.svelte';
  import { whenever } from '../../parts/whenever.svelte';
  import { newSitterDialog } from './dialogs';

  const home = new HomeState();
  let picker = $state<HTMLInputElement>();
  let pointed = $state<Zone | null>(null);
  let newOpen = $state(false);
  /** Whether it was opened once: what was typed in it stays. */
  let newMade = $state(false);
  const newSitter = () => void ([newMade, newOpen] = [true, true]);

  onMount(() => {
    void home.listing.load();
    return shortcuts.declare([
      { keys: 'o', does: 'Open the plan of this sitter', run: () => void open() },
      { keys: 'r', does: 'Read the face of this sitter', run: () => void readFace() },
      { keys: 'n', does: 'New sitter', run: newSitter },
      { keys: 'i', does: 'Import a case file', run: () => picker?.click() },
    ]);
  });

  const wanted = $derived(route.params.id ?? home.sitters?.[0]?.id);
  whenever(
    () => wanted,
    (id) => id && home.look(id),
  );

  const sitter = $derived(home.chosen);
  $effect(() => {
    if (sitter) inHand.takeSitter({ id: sitter.id, name: sitter.nickname }, sitter.sequence_id ?? null);
  });
  const colours = $derived(asRead(sitter?.zones ?? []));
  const pointedReading = $derived(sitter?.zones.find((zone) => zone.zone === pointed));

  async function open() {
    if (!sitter) return;
    const id = sitter.sequence_id ?? (await home.plan(sitter.id));
    if (id) await navigate('/plans/:id', { params: { id } });
  }

  async function readFace() {
    if (sitter) await navigate('/read/:id', { params: { id: sitter.id } });
  }

  async function erase() {
    if (!(await home.erase())) return;
    inHand.putDown();
    await navigate('/');
    await home.leave();
  }

  async function taken(event: Event & { currentTarget: HTMLInputElement }) {
    const file = event.currentTarget.files?.[0];
    event.currentTarget.value = '';
    const id = file ? await home.take(file) : null;
    if (id) await navigate('/plans/:id', { params: { id } });
  }
</script>

<Modal
  bind:open={
    () => home.goes !== null,
    (shown) => {
      if (!shown) home.goes = null;
    }
  }
  title="Erase {home.goes?.sitter.nickname ?? ''} for good?"
  wide="34"
>
  {#snippet about()}
    What was read on this face with every dated reading, what is wanted, {home.goes?.plans}
    {home.goes?.plans === 1 ? 'plan' : 'plans'} and {home.goes?.revisions}
    {home.goes?.revisions === 1 ? 'revision' : 'revisions'} of it{home.goes?.classes
      ? `, and ${home.goes.classes === 1 ? 'a class that teaches it' : `${home.goes.classes} classes that teach it`},`
      : ''}{home.goes?.practice ? ' and what they practised in Drill,' : ''}{home.goes?.named
      ? ` and their name in ${home.goes.named === 1 ? 'a class' : `${home.goes.named} classes`} where it was typed,`
      : ''} all go, from every backup too, and cannot be brought back. The kit stays.
  {/snippet}
  {#snippet actions()}
    {#if home.goes}<a class="btn" href="/api/sitters/{home.goes.sitter.id}/everything" download
        >Export everything first</a
      >{/if}
    <button class="btn btn-main" onclick={erase}>Erase for good</button>
  {/snippet}
  {#if home.goes}<Mentions mentions={home.goes.mentions} bind:leave={home.titlesLeft} />{/if}
  <p class="label">A skin record is personal: it goes when the sitter asks.</p>
</Modal>

{#if newMade}{#await newSitterDialog() then { default: NewSitterDialog }}<NewSitterDialog
      bind:open={newOpen}
    />{/await}{/if}

<svelte:head><title>{sitter ? `${sitter.nickname} – ` : ''}Sitters – Nabrel</title></svelte:head>

<div class="flex h-full flex-col">
  <RoomBar room="sitters">
    <button class="btn" onclick={() => picker?.click()} disabled={home.importing}>
      <Upload size={15} aria-hidden="true" />{home.importing ? 'Reading the file…' : 'Import a case'}
    </button>
    <button class="btn" title="New sitter (n)" onclick={newSitter}
      ><UserPlus size={15} aria-hidden="true" />New sitter</button
    >
    <WorkspaceMenu ondone={() => home.listing.load()} />
    <input
      bind:this={picker}
      type="file"
      accept=".json,application/json"
      class="hidden"
      aria-label="Case file"
      onchange={taken}
    />
  </RoomBar>

  <main class="grid min-h-0 grow grid-cols-1 gap-3 overflow-auto p-3 md:grid-cols-[15rem_minmax(0,1fr)]">
    <h1 class="sr-only">Sitters</h1>
    <Damaged onerased={() => void home.listing.load()} />
    {#if home.listing.failed || home.sitters === null}
      <Awaited of={home.listing} waits="Loading sitters…" says="The sitters could not be loaded" />
    {:else if home.sitters.length === 0}
      <div class="panel col-span-full max-w-xl self-start p-6">
        <h2 class="heading text-lg">No sitters yet</h2>
        <p class="my-2">
          Read a new sitter's face, or import a case file: one sitter, what is wanted and the kit. Or start
          Nabrel with its demo data.
        </p>
        <button class="btn" onclick={() => (firstSteps.start(), newSitter())}
          ><Route size={15} aria-hidden="true" />Guide me through a first plan</button
        >
        <button class="btn btn-main" onclick={newSitter}
          ><UserPlus size={15} aria-hidden="true" />New sitter</button
        >
        <button class="btn" onclick={() => picker?.click()}
          ><Upload size={15} aria-hidden="true" />Import a case</button
        >
      </div>
    {:else}
      <nav aria-label="Sitters" class="panel min-h-0 overflow-auto p-1.5">
        <ul>
          {#each home.sitters as each (each.id)}
            <li>
              <a
                href={p('/sitters/:id', { params: { id: each.id } })}
                aria-current={sitter?.id === each.id ? 'page' : undefined}
                class="flex items-center gap-2.5 rounded-control border-l-4 px-2 py-1.5 {sitter?.id ===
                each.id
                  ? 'border-accent bg-well'
                  : 'border-transparent hover:bg-well'}"
              >
                <Swatch hex={each.skin_hex} size={30} />
                <span class="min-w-0">
                  <span class="block truncate font-semibold">{each.nickname}</span>
                  <span class="label block truncate">{each.preset.replaceAll('_', '-')} · {each.depth}</span>
                </span>
              </a>
            </li>
          {/each}
        </ul>
      </nav>

      {#if home.opening.failed || !sitter}
        <Awaited of={home.opening} waits="Reading the face…" says="This sitter could not be opened" />
      {:else}
        <section class="grid min-h-0 content-start gap-3 lg:grid-cols-[minmax(18rem,26rem)_minmax(0,1fr)]">
          <div class="panel flex flex-col p-3">
            <div class="h-[min(30rem,60vh)]">
              <Face
                label="{sitter.nickname}, bare skin as read"
                drawn={{ colours, proportions: sitter.proportions }}
                pressed={{ point: { onpoint: (zone) => (pointed = zone) } }}
              />
            </div>
            <p class="label mt-2 min-h-10" aria-live="polite">
              {#if pointedReading}
                <b>{words.zone(pointedReading.zone)}</b>:
                {pointedReading.conditions.map((each) => `${each.words} ${each.severity}`).join(', ') ||
                  'nothing to note'}; carries {pointedReading.film_limit_um.toFixed(0)} µm.
              {:else}
                Bare skin in daylight, as read. Point at a zone for what was noted there.
              {/if}
            </p>
          </div>

          <div class="flex min-w-0 flex-col gap-3">
            <div class="panel p-4">
              <div class="flex flex-wrap items-start justify-between gap-3">
                <div class="min-w-0">
                  <h2 class="text-xl font-semibold break-words">{sitter.nickname}</h2>
                  <p class="text-quiet">{sitter.about}</p>
                </div>
                <div class="flex flex-wrap gap-2">
                  <a class="btn" href="/api/sitters/{sitter.id}/case" download
                    ><Download size={15} aria-hidden="true" />Case file</a
                  >
                  <button class="btn" onclick={() => home.askToErase()}
                    ><Eraser size={15} aria-hidden="true" />Erase…</button
                  >
                  <a
                    class="btn"
                    title="Read the face (r)"
                    href={p('/read/:id', { params: { id: sitter.id } })}
                    ><ScanFace size={15} aria-hidden="true" />Read the face</a
                  >
                  <button class="btn btn-main" onclick={open}
                    ><Layers size={15} aria-hidden="true" />{sitter.sequence_id
                      ? 'Open the plan'
                      : 'Plan the base'}</button
                  >
                </div>
              </div>
              <dl class="mt-4 grid grid-cols-2 gap-x-4 gap-y-3 sm:grid-cols-4">
                <div>
                  <dt class="label">Depth and undertone</dt>
                  <dd class="flex items-center gap-2">
                    <Swatch hex={sitter.skin_hex} />{sitter.depth}, {sitter.undertone}
                  </dd>
                </div>
                <div>
                  <dt class="label">Neck, from the face</dt>
                  <dd class="flex items-center gap-2">
                    {#if sitter.neck_hex}<Swatch hex={sitter.neck_hex} />ΔE00 {sitter.neck_de?.toFixed(
                        1,
                      )}{:else}not read{/if}
                  </dd>
                </div>
                <div>
                  <dt class="label">Complexion aimed at</dt>
                  <dd class="flex items-center gap-2">
                    <Swatch hex={sitter.complexion_hex} />between the two
                  </dd>
                </div>
                <div>
                  <dt class="label">Shape</dt>
                  <dd>{sitter.shape ?? 'not measured'}</dd>
                </div>
                <div>
                  <dt class="label">School</dt>
                  <dd>{sitter.intent.school ? words.school(sitter.intent.school) : 'recommend one'}</dd>
                </div>
                <div>
                  <dt class="label">Cover and finish</dt>
                  <dd>{sitter.intent.cover}, {sitter.intent.finish}</dd>
                </div>
                <div>
                  <dt class="label">Wear</dt>
                  <dd>{sitter.intent.wear_hours} h</dd>
                </div>
                <div>
                  <dt class="label">Setting</dt>
                  <dd>{words.setting(sitter.intent.setting ?? 'spot')}</dd>
                </div>
              </dl>
            </div>
            <PlansList {home} />
            <div class="panel p-4">
              <h3 class="heading mb-2">Read on this face</h3>
              {#if sitter.read_words.length}
                <ul class="columns-1 gap-6 xl:columns-2">
                  {#each sitter.read_words as line (line)}
                    <li class="mb-1 break-inside-avoid border-l-2 border-line pl-2">{line}</li>
                  {/each}
                </ul>
              {:else}
                <p>Nothing to note: even, balanced skin.</p>
              {/if}
            </div>
            <p class="label">
              A planning aid, not a measurement of a person and not a diagnosis. Patch-test new products,
              never work over broken skin, and put local hygiene codes and licensed practice first.
            </p>
          </div>
        </section>
      {/if}
    {/if}
  </main>
</div>
