<script lang="ts" module>
  /** The sitter whose face the wishes are drawn on, in the colours of bare skin. */
  export interface Pictured {
    id: string;
    nickname: string;
    colours: Colours;
    proportions: Proportions;
  }
</script>

<script lang="ts">
  import { api, ask, type Intent, type Proportions } from '../api/client';
  import type { Colours } from './face/colours';
  import Face from './face/Face.svelte';
  import StrokeLine from './face/StrokeLine.svelte';
  import { words } from './vocabulary.svelte';
  import { Resource } from './resource.svelte';
  import { whenever } from './whenever.svelte';

  /** What the wishes would place where on this face: the core's placements, drawn as they are on the Read room's map. */
  interface Props {
    intent: Intent;
    sitter: Pictured;
  }

  let { intent, sitter }: Props = $props();
  const KINDS = ['shade', 'light', 'glow', 'colour'] as const;
  const placing = new Resource(() =>
    ask(api.POST('/api/sitters/{id}/placements', { params: { path: { id: sitter.id } }, body: { intent } })),
  );
  const found = $derived(placing.value);
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

  whenever(
    () => asked,
    () => void placing.load(),
  );
</script>

<figure class="w-56 shrink-0">
  <div class="h-72">
    <Face
      label="What is asked for on {sitter.nickname}: {told}"
      drawn={sitter}
      shown={{ strokes: found?.strokes ?? [] }}
    />
  </div>
  <figcaption class="label">
    {#if placing.failed}The picture could not be drawn anew.{:else}
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
