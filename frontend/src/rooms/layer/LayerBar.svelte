<script lang="ts">
  import Printer from '@lucide/svelte/icons/printer';
  import Redo2 from '@lucide/svelte/icons/redo-2';
  import Scale from '@lucide/svelte/icons/scale';
  import SlidersHorizontal from '@lucide/svelte/icons/sliders-horizontal';
  import Undo2 from '@lucide/svelte/icons/undo-2';
  import type { Light, Setting, Workbench } from '../../api/client';
  import Choice from '../../parts/Choice.svelte';
  import { words } from '../../parts/vocabulary.svelte';
  import { p } from '../../router';
  import ExportMenu from './ExportMenu.svelte';
  import type { WorkbenchState } from './workbench.svelte';

  /** What is done to the whole plan: school, setting, light, undo, wishes, and taking it along. */
  interface Props {
    bench: WorkbenchState;
    plan: Workbench;
    /** Opens one of the room's dialogs by its name. */
    onshow: (name: string) => void;
  }

  let { bench, plan, onshow }: Props = $props();
  const lights = $derived(
    (words.all?.lights ?? []).map((light) => ({ id: light.id as Light, words: light.words })),
  );
  const settings = $derived(
    (words.all?.settings ?? []).map((setting) => ({
      id: setting.id as NonNullable<Setting>,
      words: setting.words,
    })),
  );
</script>

<h1 class="sr-only">{plan.title || plan.nickname}</h1>
<Choice
  label="School"
  value={plan.school}
  options={(words.all?.schools ?? []).map((school) => ({ id: school.id, words: school.words }))}
  onchoose={(school) => bench.proposal.consider({ school })}
/>
<button class="btn px-2" title="Which school here? (s)" onclick={() => onshow('schools')}
  ><Scale size={16} aria-hidden="true" />Schools</button
>
<Choice
  label="Setting"
  value={plan.intent.setting ?? 'spot'}
  options={settings}
  onchoose={(setting) => bench.proposal.consider({ setting })}
/>
<Choice label="Light" value={plan.light} options={lights} onchoose={(light) => bench.doc.see(light)} />
<button
  class="btn px-2"
  title={plan.undo_says ? `Undo: ${plan.undo_says}` : 'Nothing to undo'}
  disabled={!plan.undo_says || bench.doc.busy}
  onclick={() => bench.doc.undo()}
>
  <Undo2 size={16} aria-hidden="true" />Undo
</button>
<button
  class="btn px-2"
  title={plan.redo_says ? `Redo: ${plan.redo_says}` : 'Nothing to redo'}
  disabled={!plan.redo_says || bench.doc.busy}
  onclick={() => bench.doc.redo()}
>
  <Redo2 size={16} aria-hidden="true" />Redo
</button>
<button class="btn" title="Wishes and ways of working (w)" onclick={() => onshow('wishes')}
  ><SlidersHorizontal size={15} aria-hidden="true" />Wishes</button
>
<ExportMenu planId={plan.id} />
<a class="btn px-2" href={p('/sheet/:id', { params: { id: bench.id } })} title="Sheet to print"
  ><Printer size={15} aria-hidden="true" />Sheet</a
>
