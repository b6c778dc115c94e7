import type { Step, Workbench, Zone } from '../../api/client';
import { inOrder, type Colours } from '../../parts/face/colours';
import { words } from '../../parts/vocabulary.svelte';
import type { PlanDocument } from '../../plan/document.svelte';

/** What of a plan is looked at: the chosen step, the layer shown with its colours, and zones pointed at or picked. */
export class Stage {
  /** Index of the chosen step; -1 is bare skin. */
  at = $state(-1);
  /** Whether the finished base is shown whatever step is chosen: so a plan opens, until a layer is looked at. */
  whole = $state(false);
  pointed = $state<Zone | null>(null);
  /** Zones picked to be split off, left out, or looked at. */
  picked = $state<Zone[]>([]);

  /** Opens on a step by its id ("bare" for bare skin), or else on the whole plan with its first step. */
  constructor(
    private readonly doc: PlanDocument,
    readonly opensOn: string | null,
  ) {}

  get step(): Step | null {
    return this.doc.plan?.steps[this.at] ?? null;
  }

  /** Index of the last step whose layers are shown; -1 is bare skin. */
  get shown(): number {
    return this.whole ? (this.doc.plan?.steps.length ?? 0) - 1 : this.at;
  }

  /** The layer shown, in words. */
  get name(): string {
    const step = this.doc.plan?.steps[this.shown];
    return step ? `after ${words.step(step.kind).toLowerCase()}` : 'bare skin';
  }

  /** Colours of all zones at the layer shown. */
  readonly colours = $derived(this.coloursAt(this.shown));

  /** The complexion aimed at, on every zone. */
  readonly aimedAt = $derived.by(() => {
    const aim = this.doc.plan?.target_hex ?? '#808080';
    return inOrder((words.all?.zones ?? []).map(() => aim));
  });

  /** Colours of all zones once a step is done; -1 for bare skin. */
  coloursAt(step: number): Colours {
    return inOrder(this.doc.plan?.stages[step + 1] ?? []);
  }

  choose(index: number) {
    if (!this.doc.plan) return;
    this.whole = false;
    this.at = Math.max(-1, Math.min(index, this.doc.plan.steps.length - 1));
  }

  chooseStep(stepId: string) {
    this.choose(this.doc.plan?.steps.findIndex((step) => step.id === stepId) ?? -1);
  }

  toggle(zone: Zone) {
    this.picked = this.picked.includes(zone)
      ? this.picked.filter((each) => each !== zone)
      : [...this.picked, zone];
  }

  /** Stay on the chosen step in a plan that comes anew; the first plan decides where it opens. */
  follow(found: Workbench) {
    const chosen = this.step?.id;
    const stored = found.steps.findIndex((step) => step.id === chosen);
    if (this.doc.plan === null) {
      const wanted = found.steps.findIndex((step) => step.id === this.opensOn);
      this.whole = wanted < 0 && this.opensOn !== 'bare';
      this.at = this.whole ? Math.min(0, found.steps.length - 1) : wanted;
    } else this.at = stored >= 0 ? stored : Math.min(this.at, found.steps.length - 1);
  }
}
