<script lang="ts">
  import type { Workbench } from '../../api/client';
  import DifferenceList from './DifferenceList.svelte';
  import FindingsPanel from './FindingsPanel.svelte';
  import ForecastPanel from './ForecastPanel.svelte';
  import HowSure from './HowSure.svelte';
  import type { Moving } from './moving.svelte';
  import PlanFigures from './PlanFigures.svelte';
  import NextTime from './NextTime.svelte';
  import PlanNotes from './PlanNotes.svelte';
  import PlanTools from './PlanTools.svelte';
  import Section from './Section.svelte';
  import type { WorkbenchState } from './workbench.svelte';

  /** The middle of the room: the section, the figures, and all that is said of the plan. */
  interface Props {
    bench: WorkbenchState;
    plan: Workbench;
    moving: Moving;
    /** Opens one of the room's dialogs by its name. */
    onshow: (name: string) => void;
  }

  let { bench, plan, moving, onshow }: Props = $props();
</script>

<div class="panel p-2.5">
  <Section
    {plan}
    at={bench.stage.shown}
    chosen={bench.stage.at}
    pointed={bench.stage.pointed}
    onchoose={(step) => bench.stage.choose(step)}
    onpoint={(zone) => (bench.stage.pointed = zone)}
    {moving}
    picked={bench.stage.picked}
    onpick={(zone) => bench.stage.toggle(zone)}
  />
</div>
<div class="panel flex flex-col gap-2 p-2.5">
  <PlanFigures {bench} />
  <PlanTools id={bench.id} {onshow} />
</div>
<FindingsPanel {bench} />
<HowSure {bench} />
{#if plan.difference && (plan.difference.says.length || plan.difference.figures.length)}
  <details class="panel p-2.5" open>
    <summary class="heading cursor-pointer">What that change did</summary>
    <DifferenceList difference={plan.difference} done />
  </details>
{/if}
<ForecastPanel {bench} />
<NextTime {bench} />
<PlanNotes {plan} />
