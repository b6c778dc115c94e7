import {
  api,
  ask,
  Refusal,
  type Candidate,
  type Difference,
  type Edit,
  type Finding,
  type Light,
  type Preview,
  type Recipe,
  type Step,
  type Trial,
  type Wishes,
  type Workbench,
  type Zone,
} from '../../api/client';
import { notices } from '../../parts/notices.svelte';
import { told } from '../../parts/other-tabs';
import { words } from '../../parts/vocabulary.svelte';

/** The state of the Layer room: one plan, the chosen step, and edits on their way. All judgement is the core's. */
export class WorkbenchState {
  plan = $state.raw<Workbench | null>(null);
  failed = $state<string | null>(null);
  /** Set when somebody else changed the plan: what they did, and the edits of ours that were not applied. */
  stale = $state.raw<{ theirs: Difference | null; mine: Edit[] | null } | null>(null);
  /** Changes that are on their way. */
  underway = $state(0);
  /** Set where a change takes long enough to be noticed; until then the screen is not drawn for the waiting. */
  busy = $state(false);
  /** Index of the chosen step; -1 is bare skin. */
  at = $state(-1);
  /** Whether the finished base is shown whatever step is chosen: so a plan opens, until a layer is looked at. */
  whole = $state(false);
  pointed = $state<Zone | null>(null);
  /** Zones picked to be split off, left out, or looked at. */
  picked = $state<Zone[]>([]);
  preview = $state.raw<{ wish: Wishes; found: Preview } | null>(null);
  candidates = $state.raw<{ step: string; list: Candidate[]; mix: Recipe | null } | null>(null);

  #queue: Promise<boolean> = Promise.resolve(true);
  #notice: ReturnType<typeof setTimeout> | undefined;
  #last = '';

  /** Opens on a step by its id ("bare" for bare skin), or else on the whole plan with its first step. */
  constructor(
    readonly id: string,
    readonly opensOn: string | null = null,
  ) {}

  get step(): Step | null {
    return this.plan?.steps[this.at] ?? null;
  }

  /** Index of the last step whose layers are shown; -1 is bare skin. */
  get shown(): number {
    return this.whole ? (this.plan?.steps.length ?? 0) - 1 : this.at;
  }

  /** The layer shown, in words. */
  get stageName(): string {
    const step = this.plan?.steps[this.shown];
    return step ? `after ${words.step(step.kind).toLowerCase()}` : 'bare skin';
  }

  get light(): Light {
    return this.plan?.light ?? 'daylight';
  }

  /** Colours of all zones at the layer shown. */
  readonly colours = $derived(this.coloursAt(this.shown));

  /** The complexion aimed at, on every zone. */
  readonly aimedAt = $derived.by(() => {
    const aim = this.plan?.target_hex ?? '#808080';
    return Object.fromEntries((words.all?.zones ?? []).map((zone) => [zone.id, aim])) as Record<Zone, string>;
  });

  /** Colours of all zones once a step is done; -1 for bare skin. */
  coloursAt(step: number): Record<Zone, string> {
    const stage = this.plan?.stages[step + 1] ?? [];
    return Object.fromEntries(
      (words.all?.zones ?? []).map((zone, i) => [zone.id, stage[i] ?? '#808080']),
    ) as Record<Zone, string>;
  }

  /** A step's number as shown, from 1; 0 where there is no such step. */
  number(stepId: string): number {
    return (this.plan?.steps.findIndex((step) => step.id === stepId) ?? -1) + 1;
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
      this.stale = null;
    } catch (error) {
      this.failed = error instanceof Refusal ? error.message : String(error);
    }
  }

  choose(index: number) {
    if (!this.plan) return;
    this.whole = false;
    this.at = Math.max(-1, Math.min(index, this.plan.steps.length - 1));
  }

  chooseStep(stepId: string) {
    this.choose(this.plan?.steps.findIndex((step) => step.id === stepId) ?? -1);
  }

  async edit(edits: Edit[]): Promise<boolean> {
    return this.#change(
      (plan) =>
        ask(
          api.POST('/api/sequences/{id}/edits', {
            ...this.#where(),
            body: { revision: plan.revision, edits },
          }),
        ),
      edits,
    );
  }

  /** What edits would do; null where they are refused, which is said. */
  async attempt(edits: Edit[]): Promise<Trial | null> {
    try {
      return await ask(api.POST('/api/sequences/{id}/try', { ...this.#where(), body: { edits } }));
    } catch (error) {
      notices.refuse(error);
      return null;
    }
  }

  /** Look whether the plan still stands as it is shown: another tab may have changed it. */
  async checkStanding() {
    if (!this.plan || this.underway || this.stale) return;
    try {
      const head = await ask(api.GET('/api/sequences/{id}/head', { params: { path: { id: this.id } } }));
      if (this.plan && head.revision !== this.plan.revision && !this.underway) await this.#found(null);
    } catch {
      // Whoever edits next is told what is wrong; looking after a tab is no reason to speak.
    }
  }

  /** Show the newest plan, with our own edits on top of it where there are any. */
  async merge() {
    const mine = this.stale?.mine;
    await this.load();
    if (mine && !this.failed) await this.edit(mine);
  }

  toggle(zone: Zone) {
    this.picked = this.picked.includes(zone)
      ? this.picked.filter((each) => each !== zone)
      : [...this.picked, zone];
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
      if (error instanceof Refusal && error.stale) await this.#found(null);
      else notices.refuse(error);
    }
  }

  /** Take the last change back; one that is still on its way is waited for. */
  async undo() {
    if (!this.underway && !this.plan?.undo_says) return;
    let says = '';
    const done = await this.#change((plan) => {
      says = plan.undo_says ?? '';
      return ask(
        api.POST('/api/sequences/{id}/undo', { ...this.#where(), body: { revision: plan.revision } }),
      );
    });
    if (done) notices.say(`Undone: ${says}`);
  }

  async redo() {
    if (!this.underway && !this.plan?.redo_says) return;
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

  /** Products that could take a step's place, looked at on a zone; the largest if none. */
  async findCandidates(stepId: string, zone?: Zone) {
    if (this.candidates?.step !== stepId) this.candidates = null;
    try {
      const found = await ask(
        api.GET('/api/sequences/{id}/steps/{step}/candidates', {
          params: {
            path: { id: this.id, step: stepId },
            query: { light: this.light, ...(zone ? { zone } : {}) },
          },
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

  /** Somebody else changed the plan: say so, and what they did since the revision shown. */
  async #found(mine: Edit[] | null) {
    this.stale = { theirs: null, mine };
    if (!this.plan) return;
    try {
      const theirs = await ask(
        api.GET('/api/sequences/{id}/versions/{number}/difference', {
          params: { path: { id: this.id, number: this.plan.revision } },
        }),
      );
      if (this.stale) this.stale = { ...this.stale, theirs };
    } catch (error) {
      notices.refuse(error);
    }
  }

  /** Changes go out one after the other, each on the revision that the one before it made. */
  #change(call: (plan: Workbench) => Promise<Workbench>, edits: Edit[] | null = null): Promise<boolean> {
    const said = edits ? JSON.stringify(edits) : '';
    // The same edit pressed twice at once is meant once.
    if (said && said === this.#last && this.underway) return this.#queue;
    this.#last = said;
    this.underway += 1;
    this.#notice ??= setTimeout(() => (this.busy = this.underway > 0), 150);
    const turn = this.#queue.then(() => this.#send(call, edits));
    this.#queue = turn;
    return turn;
  }

  async #send(call: (plan: Workbench) => Promise<Workbench>, edits: Edit[] | null): Promise<boolean> {
    if (!this.plan) return false;
    try {
      this.#take(await call(this.plan));
      told(this.id, this.plan.revision);
      return true;
    } catch (error) {
      if (error instanceof Refusal && error.stale) await this.#found(edits);
      else notices.refuse(error);
      return false;
    } finally {
      this.underway -= 1;
      if (!this.underway) {
        clearTimeout(this.#notice);
        this.#notice = undefined;
        this.busy = false;
      }
    }
  }

  #take(found: Workbench) {
    const chosen = this.step?.id;
    const first = this.plan === null;
    this.plan = found;
    const kept = found.steps.findIndex((step) => step.id === chosen);
    if (first) {
      const wanted = found.steps.findIndex((step) => step.id === this.opensOn);
      this.whole = wanted < 0 && this.opensOn !== 'bare';
      this.at = this.whole ? Math.min(0, found.steps.length - 1) : wanted;
    } else this.at = kept >= 0 ? kept : Math.min(this.at, found.steps.length - 1);
  }
}
