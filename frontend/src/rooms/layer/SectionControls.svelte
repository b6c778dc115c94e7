<script lang="ts">
  import Choice from '../../parts/Choice.svelte';
  import PictureButtons from '../../parts/PictureButtons.svelte';
  import type { Cut } from './cut.svelte';
  import { SCALES, type Scale } from './section';

  /** Which sides of the face are cut, and at what height the scale ends. */
  let { cut, drawing, of }: { cut: Cut; drawing: SVGSVGElement | undefined; of: string } = $props();
  const SCALE_WORDS: Partial<Record<Scale, string>> = { ceilings: 'To the ceilings', films: 'To the films' };
</script>

<div class="no-print mt-1 flex flex-wrap items-center gap-2 text-xs">
  <Choice
    label="Sides"
    value={cut.sides}
    options={[
      { id: 'both', words: 'Both sides' },
      { id: 'r', words: 'Right side and middle' },
      { id: 'l', words: 'Left side and middle' },
    ]}
    onchoose={(next) => (cut.sides = next)}
  />
  <Choice
    label="Scale"
    value={cut.scale}
    options={SCALES.map((id) => ({ id, words: SCALE_WORDS[id] ?? `${id} µm high` }))}
    onchoose={(next) => (cut.scale = next)}
  />
  <span class="label">{cut.frame.scale.toFixed(1)} px a µm</span>
  <span class="ml-auto"><PictureButtons {drawing} name="{of}-section" of="the section" /></span>
</div>
