<script lang="ts">
  import { savePng, saveSvg } from './picture';

  /** Saving a drawing of the screen: ``of`` tells which one, for those who do not see it beside the buttons. */
  let { drawing, name, of }: { drawing: SVGSVGElement | undefined; name: string; of: string } = $props();
</script>

<span class="flex gap-1">
  <button class="btn h-control-s" onclick={() => drawing && saveSvg(drawing, name)}
    >SVG<span class="sr-only"> of {of}</span></button
  >
  <button class="btn h-control-s" onclick={() => drawing && void savePng(drawing, name)}
    >PNG<span class="sr-only"> of {of}</span></button
  >
</span>
