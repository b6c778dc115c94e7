<script lang="ts">
  import type { Stroke } from '../../api/client';
  import { asRead } from '../../parts/face/colours';
  import Face from '../../parts/face/Face.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import type { ReadState } from './read.svelte';

  interface Props {
    read: ReadState;
    chosen: string | null;
    onchoose: (stroke: string) => void;
  }

  let { read, chosen, onchoose }: Props = $props();
  const face = $derived(read.face!);
  const MOST_MM = 60;

  function shift({ id, moved_mm: [right = 0, below = 0] }: Stroke, by: [number, number]) {
    const kept = (mm: number) => Math.max(-MOST_MM, Math.min(MOST_MM, Math.round(mm)));
    read.move(id, [kept(right + by[0]), kept(below + by[1])]);
  }

  function told(stroke: Stroke): string {
    const where = stroke.zones.map((zone) => words.zone(zone)).join(', ');
    const [right = 0, below = 0] = stroke.moved_mm;
    return `${words.step(stroke.kind)} on ${where}${right || below ? ', moved by hand' : ''}. ${stroke.why}`;
  }
</script>

<Face
  label="{face.nickname}, with placements"
  drawn={{ colours: asRead(face.zones), proportions: face.proportions }}
  shown={{ strokes: face.strokes, chosenStroke: chosen }}
  pressed={{
    move: {
      mm_a_unit: face.mm_a_unit,
      told,
      onchoose: (stroke) => onchoose(stroke.id),
      onmove: shift,
      onreset: (stroke) => read.move(stroke.id, [0, 0]),
    },
  }}
/>
