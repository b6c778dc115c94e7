import { api, ask, type Difference, type Version } from '../../api/client';
import { Latest } from '../../parts/latest';
import { tried } from '../../parts/tried';

export function calledAs(version: Version): string {
  return version.name ?? `Revision ${version.number}`;
}

/** The versions of a plan, what they are called, and what changed between two of them. */
export class VersionsState {
  all = $state(false);
  looked = $state.raw<{ number: number; says: string; found: Difference } | null>(null);
  #versions = $state.raw<Version[] | null>(null);
  /** The version that the others are told against; the plan as it stands where none was chosen. */
  #against = $state<number | null>(null);
  #asked = new Latest();

  constructor(readonly planId: string) {}

  /** Those with a name and the one that stands, or every revision. */
  get shown(): Version[] {
    return this.#versions?.filter((each) => this.all || each.name || each.current) ?? [];
  }

  get other(): number {
    const chosen = this.shown.find((each) => each.number === this.#against);
    return (chosen ?? this.#versions?.find((each) => each.current))?.number ?? 0;
  }

  async load() {
    const params = { path: { id: this.planId } };
    await this.#take(ask(api.GET('/api/sequences/{id}/versions', { params })));
  }

  leave() {
    this.#asked.drop();
    this.looked = null;
    this.#against = null;
  }

  tellAgainst(number: number) {
    this.#asked.drop();
    this.#against = number;
    this.looked = null;
  }

  /** Give a revision a name; an empty one takes it away. */
  async call(number: number, named: string) {
    const params = { path: { id: this.planId, number } };
    await this.#take(
      ask(api.PUT('/api/sequences/{id}/versions/{number}', { params, body: { name: named } })),
    );
  }

  /** What changed between a version and the one chosen, told from the older to the newer. */
  async look(number: number) {
    const [from, until] = [Math.min(number, this.other), Math.max(number, this.other)];
    const params = { path: { id: this.planId, number: from }, query: { until } };
    const found = await tried(
      this.#asked.of(ask(api.GET('/api/sequences/{id}/versions/{number}/difference', { params }))),
    );
    if (found) this.looked = { number, says: `From ${this.#called(from)} to ${this.#called(until)}`, found };
  }

  #called(number: number): string {
    const found = this.#versions?.find((each) => each.number === number);
    return found ? calledAs(found) : `Revision ${number}`;
  }

  async #take(call: Promise<{ versions: Version[] }>) {
    const found = await tried(call);
    if (found) this.#versions = found.versions;
  }
}
