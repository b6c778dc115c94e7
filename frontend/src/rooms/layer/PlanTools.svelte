<script lang="ts">
  import Columns3 from '@lucide/svelte/icons/columns-3';
  import Droplet from '@lucide/svelte/icons/droplet';
  import FlaskConical from '@lucide/svelte/icons/flask-conical';
  import History from '@lucide/svelte/icons/history';
  import ListChecks from '@lucide/svelte/icons/list-checks';
  import Presentation from '@lucide/svelte/icons/presentation';
  import { p } from '../../router';

  /** What can be asked of this plan, and where it goes next. */
  let { id, onshow }: { id: string; onshow: (name: string) => void } = $props();
</script>

<div class="no-print flex flex-wrap gap-2">
  <button class="btn px-2" title="Which corrector here? (c)" onclick={() => onshow('corrector')}
    ><Droplet size={15} aria-hidden="true" />Corrector</button
  >
  <button class="btn px-2" title="Mix a shade (m)" onclick={() => onshow('well')}
    ><FlaskConical size={15} aria-hidden="true" />Mix a shade</button
  >
  <button class="btn px-2" title="Versions of this plan (v)" onclick={() => onshow('versions')}
    ><History size={15} aria-hidden="true" />Versions</button
  >
  <a class="btn px-2" title="Weigh candidates (g)" href={p('/weigh/:id', { params: { id } })}
    ><Columns3 size={15} aria-hidden="true" />Weigh</a
  >
  <button class="btn px-2" title="Show it to a class (p)" onclick={() => onshow('show')}
    ><Presentation size={15} aria-hidden="true" />Show</button
  >
  <button class="btn px-2" title="Subtract from stock (d)" onclick={() => onshow('run')}
    ><ListChecks size={15} aria-hidden="true" />Subtract from stock</button
  >
</div>
