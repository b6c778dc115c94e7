import {
  api,
  ask,
  Refusal,
  type Difference,
  type Edit,
  type Finding,
  type Light,
  type Step,
  type Trial,
  type Wishes,
  type Workbench,
} from '../api/client';
import { notices } from '../parts/notices.svelte';
import { told } from '../parts/other-tabs';
import { tried } from '../parts/tried';
import { words } from '../parts/vocabulary.svelte';
import { Resource } from '../parts/resource.svelte';

/** One plan at a revision, changes on their way to it, and what to do where somebody else changed it meanwhile. */
export class PlanDocument {
  plan = $state.raw<Workbench | null>(null);
  /** Set when somebody else changed the plan: what they did, and the edits of ours that were not applied. */
  stale = $state.raw<{ theirs: Difference | null; mine: Edit[] | null } | null>(null);
  /** Changes that are on their way. */
  underway = $state(0);
  /** Set where a change takes long enough to be noticed; until then the screen is not drawn for the waiting. */
  busy = $state(false);

  #queue: Promise<boolean> = Promise.resolve(true);
  #notice: ReturnType<typeof setTimeout> | undefined;
  #last = '';
  /** The light that is being changed to. */
  #wanted: Light | null = null;

  /** ``ontaken`` is called with every plan that comes, before it is shown. */
  constructor(
    readonly id: string,
    private readonly ontaken: (found: Workbench) => void,
  ) {}

  get light(): Light {
    return this.plan?.light ?? 'daylight';
  }

  /** A step's number as shown, from 1; 0 where there is no such step. */
  number(stepId: string): number {
    return (this.plan?.steps.findIndex((step) => step.id === stepId) ?? -1) + 1;
  }

  findingsOf(stepId: string): Finding[] {
    return this.plan?.findings.filter((finding) => finding.steps.includes(stepId)) ?? [];
  }

  /** The plan, read in the light that is wanted. It waits for its turn among the changes: an answer from before them would take them back. */
  readonly opening = new Resource(() => {
    const turn = this.#queue.then(() => this.#read());
    this.#queue = turn.then(
      () => true,
      () => false,
    );
    return turn;
  });

  async #read() {
    const light = this.#wanted ?? this.light;
    const [found] = await Promise.all([
      ask(api.GET('/api/sequences/{id}', { params: { path: { id: this.id }, query: { light } } })),
      words.load(),
    ]);
    this.#take(found);
    this.stale = null;
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
    return tried(ask(api.POST('/api/sequences/{id}/try', { ...this.#where(), body: { edits } })));
  }

  /** Look whether the plan still stands as it is shown: another tab may have changed it. */
  async checkStanding() {
    if (!this.plan || this.underway || this.stale) return;
    try {
      const head = await ask(api.GET('/api/sequences/{id}/head', { params: { path: { id: this.id } } }));
      // Whoever edited meanwhile was told already.
      if (this.plan && head.revision !== this.plan.revision && !this.underway && !this.stale)
        await this.#found(null);
    } catch {
      // Whoever edits next is told what is wrong; looking after a tab is no reason to speak.
    }
  }

  /** Show the newest plan, with our own edits on top of it where there are any. */
  async merge() {
    const mine = this.stale?.mine;
    if ((await this.opening.load()) && mine) await this.edit(mine);
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
    this.#wanted = light;
    await this.opening.load();
    this.#wanted = null;
  }

  /** Plan anew with other wishes. */
  async replan(wish: Wishes): Promise<boolean> {
    return this.#change((plan) =>
      ask(
        api.POST('/api/sequences/{id}/replan', {
          ...this.#where(),
          body: { revision: plan.revision, ...wish },
        }),
      ),
    );
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
    const before = this.stale?.mine ?? null;
    this.stale = { theirs: null, mine: mine ? [...(before ?? []), ...mine] : before };
    if (!this.plan) return;
    const theirs = await tried(
      ask(
        api.GET('/api/sequences/{id}/versions/{number}/difference', {
          params: { path: { id: this.id, number: this.plan.revision } },
        }),
      ),
    );
    if (this.stale && theirs) this.stale = { ...this.stale, theirs };
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
    this.ontaken(found);
    this.plan = found;
  }
}
