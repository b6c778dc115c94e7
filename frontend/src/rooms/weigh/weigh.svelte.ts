import { api, ask, type CandidateSpec, type Product, type Version, type Weighing } from '../../api/client';
import { notices } from '../../parts/notices.svelte';
import { words } from '../../parts/vocabulary.svelte';

export const MOST = 4;

/** The state of the Weigh room: candidates on one face, and what was found of them. All judgement is the core's. */
export class WeighState {
  specs = $state.raw<CandidateSpec[]>([]);
  found = $state.raw<Weighing | null>(null);
  versions = $state.raw<Version[]>([]);
  foundations = $state.raw<Product[]>([]);
  failed = $state<string | null>(null);
  busy = $state(false);

  constructor(readonly id: string) {
    void this.open();
  }

  /** The plan as it stands against the school that suits best, or against the next where that is its own. */
  async open() {
    this.failed = null;
    const path = { id: this.id };
    try {
      const [plan, ranked, versions, kit] = await Promise.all([
        ask(api.GET('/api/sequences/{id}', { params: { path } })),
        ask(api.GET('/api/sequences/{id}/schools', { params: { path } })),
        ask(api.GET('/api/sequences/{id}/versions', { params: { path } })),
        ask(api.GET('/api/kit')),
        words.load(),
      ]);
      this.foundations = kit.items.filter((item) => item.role === 'foundation');
      this.versions = versions.versions.filter((each) => each.name);
      const other = ranked.schools.find((each) => each.school !== plan.school)?.school ?? 'overpainted';
      await this.#weigh([{ light: 'daylight' }, { school: other, light: 'daylight' }]);
    } catch (error) {
      this.failed = error instanceof Error ? error.message : String(error);
    }
  }

  change(place: number, fields: Partial<CandidateSpec>) {
    return this.#weigh(this.specs.map((spec, at) => (at === place ? { ...spec, ...fields } : spec)));
  }

  add() {
    const taken = this.found?.candidates.map((each) => each.plan.school) ?? [];
    const free = words.all?.schools.find((school) => !taken.includes(school.id))?.id;
    return this.#weigh([...this.specs, { school: free ?? null, light: 'daylight' }]);
  }

  drop(place: number) {
    return this.#weigh(this.specs.filter((_, at) => at !== place));
  }

  async #weigh(specs: CandidateSpec[]) {
    this.busy = true;
    try {
      this.found = await ask(
        api.POST('/api/sequences/{id}/weigh', {
          params: { path: { id: this.id } },
          body: { candidates: specs },
        }),
      );
      this.specs = specs;
    } catch (error) {
      if (this.found) notices.refuse(error);
      else throw error;
    } finally {
      this.busy = false;
    }
  }

  /** Make a candidate the plan; whether it was. */
  async take(place: number): Promise<boolean> {
    const [spec, revision] = [this.specs[place], this.found?.candidates[0]?.plan.revision];
    if (!spec || revision === undefined) return false;
    try {
      await ask(
        api.POST('/api/sequences/{id}/weigh/take', {
          params: { path: { id: this.id } },
          body: { revision, candidate: spec },
        }),
      );
      return true;
    } catch (error) {
      notices.refuse(error);
      return false;
    }
  }
}
