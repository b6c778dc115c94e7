<script lang="ts" module>
  /** The sitter whose face the wishes are drawn on, in the colours of bare skin. */
  export interface Pictured {
    id: string;
    nickname: string;
    colours: Record<Zone, string>;
    proportions: Proportions;
  }
</script>

<script lang="ts">
  import { api, ask, type Intent, type Placements, type Proportions, type Zone } from '../api/client';
  import { untrack } from 'svelte';
  import FaceMap from './FaceMap.svelte';
  import { Latest } from './latest';
  import { pointsOf } from './proportions';
  import StrokeLine from './StrokeLine.svelte';
  import { words } from './vocabulary.svelte';

  /** What the wishes would place where on this face: the core's placements, drawn as they are on the Read room's map. */
  interface Props {
    intent: Intent;
    sitter: Pictured;
  }

  let { intent, sitter }: Props = $props();
  const KINDS = ['shade', 'light', 'glow', 'colour'] as const;
  let found = $state.raw<Placements | null>(null);
  let failed = $state(false);
  const questions = new Latest();
  const shown = $derived(KINDS.filter((kind) => found?.strokes.some((stroke) => stroke.kind === kind)));
  const told = $derived(
    KINDS.map((kind) => {
      const zones = [
        ...new Set(found?.strokes.filter((each) => each.kind === kind).flatMap((each) => each.zones)),
      ];
      return zones.length
        ? `${words.step(kind)} on ${zones.map((zone) => words.zone(zone)).join(', ')}`
        : `no ${words.step(kind).toLowerCase()}`;
    }).join('; '),
  );
  /** What is placed follows from these alone; nothing else that is wished for is worth asking again. */
  const asked = $derived(
    JSON.stringify([intent.effects, intent.colour_effect, intent.glow_points, intent.viewing]),
  );

  $effect(() => {
    void asked;
    void find(untrack(() => intent));
  });

  async function find(wanted: Intent) {
    const params = { path: { id: sitter.id } };
    try {
      const answer = await questions.of(
        ask(api.POST('/api/sitters/{id}/placements', { params, body: { intent: wanted } })),
      );
      if (answer) [found, failed] = [answer, false];
    } catch {
      failed = true;
    }
  }
</script>

<figure class="w-56 shrink-0">
  <div class="h-72">
    <FaceMap
      colours={sitter.colours}
      proportions={sitter.proportions}
      label="What is asked for on {sitter.nickname}: {told}"
    >
      {#snippet over()}
        {#each found?.strokes ?? [] as stroke (stroke.id)}
          <StrokeLine kind={stroke.kind} points={pointsOf(stroke, sitter.proportions)} />
        {/each}
      {/snippet}
    </FaceMap>
  </div>
  <figcaption class="label">
    {#if failed}The picture could not be drawn anew.{:else}
      <ul class="flex flex-wrap gap-x-3" aria-label="Lines of the picture">
        {#each shown as kind (kind)}
          <li class="flex items-center gap-1">
            <svg viewBox="0 0 28 10" class="h-2.5 w-7" aria-hidden="true"
              ><StrokeLine {kind} points="4,5 24,5" /></svg
            >{words.step(kind)}
          </li>
        {/each}
      </ul>
    {/if}
  </figcaption>
</figure>
