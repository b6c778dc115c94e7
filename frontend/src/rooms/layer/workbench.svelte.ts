import {
  api,
  ask,
  Refusal,
  type Candidate,
  type Edit,
  type Finding,
  type Light,
  type Preview,
  type Recipe,
  type Step,
  type Wishes,
  type Workbench,
  type Zone,
} from '../../api/client';
import { notices } from '../../parts/notices.svelte';
import { words } from '../../parts/vocabulary.svelte';

/** The state of the Layer room: one plan, the chosen step, and edits on their way. All judgement is the core's. */
export class WorkbenchState {
  plan = $state.raw<Workbench | null>(null);
  failed = $state<string | null>(null);
  stale = $state(false);
  busy = $state(false);
  /** Index of the chosen step; -1 is bare skin. */
  at = $state(-1);
  pointed = $state<Zone | null>(null);
  preview = $state.raw<{ wish: Wishes; found: Preview } | null>(null);
  candidates = $state.raw<{ step: string; list: Candidate[]; mix: Recipe | null } | null>(null);

  constructor(readonly id: string) {}

  get step(): Step | null {
    return this.plan?.steps[this.at] ?? null;
  }

  get light(): Light {
    return this.plan?.light ?? 'daylight';
  }

  /** Colours of all zones once the chosen step is done. */
  get colours(): Record<Zone, string> {
    return this.coloursAt(this.at);
  }

  /** The complexion aimed at, on every zone. */
  get aimedAt(): Record<Zone, string> {
    const aim = this.plan?.target_hex ?? '#808080';
    return Object.fromEntries((words.all?.zones ?? []).map((zone) => [zone.id, aim])) as Record<Zone, string>;
  }

  /** Colours of all zones once a step is done; -1 for bare skin. */
  coloursAt(step: number): Record<Zone, string> {
    const stage = this.plan?.stages[step + 1] ?? [];
    return Object.fromEntries(
      (words.all?.zones ?? []).map((zone, i) => [zone.id, stage[i] ?? '#808080']),
    ) as Record<Zone, string>;
  }

  findingsOf(stepId: string): Finding[] {
    return this.plan?.findings.filter((finding) => finding.steps.includes(stepId)) ?? [];
  }

  async load(light: Light = this.light) {
    this.failed = null;
    try {
      const [found] = await Promise.all([
        ask(api.GET('/api/sequences/{id}', { params: { path: { id: this.id }, query: { light } } })),
        words.load(),
      ]);
      this.#take(found);
      this.stale = false;
    } catch (error) {
      this.failed = error instanceof Refusal ? error.message : String(error);
    }
  }

  choose(index: number) {
    if (!this.plan) return;
    this.at = Math.max(-1, Math.min(index, this.plan.steps.length - 1));
  }

  chooseStep(stepId: string) {
    this.choose(this.plan?.steps.findIndex((step) => step.id === stepId) ?? -1);
  }

  async edit(edits: Edit[]) {
    await this.#change((plan) =>
      ask(
        api.POST('/api/sequences/{id}/edits', { ...this.#where(), body: { revision: plan.revision, edits } }),
      ),
    );
  }

  /** Keep a finding quiet, because of the note; without a note it speaks again. */
  async accept(finding: Finding, note: string) {
    await this.edit([{ edit: 'accept', rule: finding.rule, zones: finding.zones, note }]);
  }

  async takeVersion(number: number): Promise<boolean> {
    return this.#change((plan) =>
      ask(
        api.POST('/api/sequences/{id}/versions/{number}/take', {
          params: { path: { id: this.id, number }, query: { light: this.light } },
          body: { revision: plan.revision },
        }),
      ),
    );
  }

  /** Record that the plan was done today: packs lose what it took, tools are used. */
  async recordRun(sitters: number) {
    if (!this.plan) return;
    try {
      const run = await ask(
        api.POST('/api/sequences/{id}/runs', {
          params: { path: { id: this.id } },
          body: { revision: this.plan.revision, sitters },
        }),
      );
      const low = run.low.length ? ` Running low: ${run.low.join(', ')}.` : '';
      notices.say(`Recorded: ${run.items} items gave what it took.${low}`);
    } catch (error) {
      if (error instanceof Refusal && error.stale) this.stale = true;
      else notices.refuse(error);
    }
  }

  async undo() {
    if (!this.plan?.undo_says) return;
    const says = this.plan.undo_says;
    const done = await this.#change((plan) =>
      ask(api.POST('/api/sequences/{id}/undo', { ...this.#where(), body: { revision: plan.revision } })),
    );
    if (done) notices.say(`Taken back: ${says}`);
  }

  async redo() {
    if (!this.plan?.redo_says) return;
    await this.#change((plan) =>
      ask(api.POST('/api/sequences/{id}/redo', { ...this.#where(), body: { revision: plan.revision } })),
    );
  }

  async see(light: Light) {
    await this.load(light);
  }

  /** Ask what another school, setting or wish would bring; nothing is changed yet. */
  async consider(wish: Wishes) {
    try {
      const found = await ask(
        api.POST('/api/sequences/{id}/preview', { params: { path: { id: this.id } }, body: wish }),
      );
      this.preview = { wish, found };
    } catch (error) {
      notices.refuse(error);
    }
  }

  async keepPreview() {
    const preview = this.preview;
    if (!preview) return;
    const done = await this.#change((plan) =>
      ask(
        api.POST('/api/sequences/{id}/replan', {
          ...this.#where(),
          body: { revision: plan.revision, ...preview.wish },
        }),
      ),
    );
    if (done) this.preview = null;
  }

  async findCandidates(stepId: string) {
    this.candidates = null;
    try {
      const found = await ask(
        api.GET('/api/sequences/{id}/steps/{step}/candidates', {
          params: { path: { id: this.id, step: stepId }, query: { light: this.light } },
        }),
      );
      this.candidates = { step: stepId, list: found.candidates, mix: found.mix ?? null };
    } catch (error) {
      notices.refuse(error);
    }
  }

  async move(step: Step, by: -1 | 1) {
    const steps = this.plan?.steps ?? [];
    const index = steps.findIndex((each) => each.id === step.id);
    const target = by < 0 ? steps[index - 1] : steps[index + 2];
    if (by < 0 ? index <= 0 : index >= steps.length - 1) return;
    await this.edit([{ edit: 'move', step: step.id, before: target?.id ?? null }]);
  }

  #where() {
    return { params: { path: { id: this.id }, query: { light: this.light } } };
  }

  async #change(call: (plan: Workbench) => Promise<Workbench>): Promise<boolean> {
    if (!this.plan) return false;
    this.busy = true;
    try {
      this.#take(await call(this.plan));
      return true;
    } catch (error) {
      if (error instanceof Refusal && error.stale) this.stale = true;
      else notices.refuse(error);
      return false;
    } finally {
      this.busy = false;
    }
  }

  #take(found: Workbench) {
    const chosen = this.step?.id;
    const first = this.plan === null;
    this.plan = found;
    const kept = found.steps.findIndex((step) => step.id === chosen);
    if (first) this.at = found.steps.length - 1;
    else this.at = kept >= 0 ? kept : Math.min(this.at, found.steps.length - 1);
  }
}
