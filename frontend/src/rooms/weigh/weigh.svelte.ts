import {
  api,
  ask,
  Refusal,
  type CandidateSpec,
  type Ranked,
  type Version,
  type Weighing,
  type Zone,
} from '../../api/client';
import { inOrder } from '../../parts/face/colours';
import type { Drawn } from '../../parts/face/inputs';
import { notices } from '../../parts/notices.svelte';
import { Latest } from '../../parts/latest';
import { words } from '../../parts/vocabulary.svelte';
import { fromText, toText } from './specs';
import { Resource } from '../../parts/resource.svelte';

export const MOST = 4;
export const LETTERS = ['A', 'B', 'C', 'D'];

/** The state of the Weigh room: candidates on one face, and what was found of them. All judgement is the core's. */
export class WeighState {
  specs = $state.raw<CandidateSpec[]>([]);
  found = $state.raw<Weighing | null>(null);
  versions = $state.raw<Version[]>([]);
  /** The schools that suit this face best, of all six: one, or several as good as each other. */
  best = $state.raw<readonly Ranked[]>([]);
  busy = $state(false);
  pointed = $state<Zone | null>(null);

  /** What was asked last: a second change goes on top of a first that is not answered yet. */
  #wanted: readonly CandidateSpec[] = [];
  #asked = new Latest();
  /** Whether what the address asks for was refused. */
  #refused = false;

  readonly candidates = $derived(this.found?.candidates ?? []);
  readonly suits = $derived(this.candidates[this.found?.recommended ?? 0]);
  /** The best of all six schools, where no candidate is of one that is as good. */
  readonly missing = $derived(
    this.candidates.some((each) => this.best.some((school) => school.school === each.plan.school))
      ? null
      : (this.best[0] ?? null),
  );

  readonly opening = new Resource(() => this.#open());

  /** ``asked`` says what the address asks for, and ``save`` is told what stands side by side, so that it can. */
  constructor(
    readonly id: string,
    readonly save: (candidates: string[]) => void,
    readonly asked: () => string[],
  ) {}

  /** What the address asks for; else the plan as it stands against the school that suits best, or the next to its own. */
  async #open() {
    const path = { id: this.id };
    const [plan, ranked, versions] = await Promise.all([
      ask(api.GET('/api/sequences/{id}', { params: { path } })),
      ask(api.GET('/api/sequences/{id}/schools', { params: { path } })),
      ask(api.GET('/api/sequences/{id}/versions', { params: { path } })),
      words.load(),
    ]);
    this.versions = versions.versions.filter((each) => each.name);
    this.best = ranked.schools.filter((each) => each.as_good);
    const asked = this.#refused ? [] : this.asked();
    const other = ranked.schools.find((each) => each.school !== plan.school)?.school ?? 'overpainted';
    try {
      await this.#weigh(
        asked.length >= 2
          ? asked.map(fromText)
          : [{ light: plan.light }, { school: other, light: plan.light }],
      );
    } catch (error) {
      // An address that asks for what cannot be weighed is not asked again; one that nobody answered is.
      this.#refused = !(error instanceof Refusal && error.status === 0);
      throw error;
    }
  }

  change(place: number, fields: Partial<CandidateSpec>) {
    // While one comes or goes, a place is not the one that was pointed at.
    if (this.#wanted.length !== this.specs.length) return;
    return this.#weigh(this.#wanted.map((spec, at) => (at === place ? { ...spec, ...fields } : spec)));
  }

  /** Another candidate: a school of choice, or one that is not there yet. */
  add(school = this.#free()) {
    return this.#weigh([...this.#wanted, { school, light: this.#wanted[0]?.light ?? 'daylight' }]);
  }

  drop(place: number) {
    return this.#weigh(this.#wanted.filter((_, at) => at !== place));
  }

  #free() {
    const taken = this.candidates.map((each) => each.plan.school);
    return words.all?.schools.find((school) => !taken.includes(school.id))?.id ?? null;
  }

  async #weigh(specs: CandidateSpec[]) {
    this.busy = true;
    this.#wanted = specs;
    const params = { path: { id: this.id } };
    try {
      const found = await this.#asked.of(
        ask(api.POST('/api/sequences/{id}/weigh', { params, body: { candidates: specs } })),
      );
      if (!found) return;
      this.save(specs.map(toText));
      this.specs = specs;
      this.found = found;
    } catch (error) {
      this.busy = false;
      this.#wanted = this.specs;
      if (!this.found) throw error;
      notices.refuse(error);
    }
    this.busy = false;
  }

  /** Make a candidate the plan; whether it was. A plan that changed meanwhile is weighed anew, and nothing is taken. */
  async take(place: number): Promise<boolean> {
    const spec = this.specs[place];
    if (!spec || !this.found) return false;
    try {
      await ask(
        api.POST('/api/sequences/{id}/weigh/take', {
          params: { path: { id: this.id } },
          body: { revision: this.found.revision, candidate: spec },
        }),
      );
      return true;
    } catch (error) {
      if (error instanceof Refusal && error.stale) {
        await this.#weigh(this.specs);
        notices.say(
          'The plan was changed in another tab. The candidates are weighed anew: look again.',
          true,
        );
      } else notices.refuse(error);
      return false;
    }
  }
}

/** The face with the finished base. */
export function finished(plan: Weighing['candidates'][number]['plan']): Drawn {
  return { colours: inOrder(plan.stages.at(-1) ?? []), proportions: plan.proportions };
}
