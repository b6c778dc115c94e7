import { api, ask, type Schemas } from '../../api/client';
import { tried } from '../../parts/tried';

export type Exercise = Schemas['ExerciseWire'];
export type DrillMark = Schemas['DrillMarkWire'];
type Answer = Schemas['DrillAnswerBody'];
type Kind = Exercise['kind'];
type Zone = Exercise['zones'][number];

/** A session of exercises: one at a time, the next one fetched while the last is read. Nothing of it is kept. */
export class DrillState {
  kinds = $state.raw<Schemas['DrillKindWire'][]>([]);
  kind = $state<Kind | ''>('');
  /** The level that is wanted; 0 is the one that fits what was answered. */
  level = $state(0);
  #answers: { level: 1 | 2 | 3 | 4 | 5; score: number }[] = [];
  asked = $state.raw<Exercise | null>(null);
  marked = $state.raw<DrillMark | null>(null);
  failed = $state('');
  busy = $state(false);
  answered = $state(0);
  points = $state(0);
  /** The answer as it is being given. */
  choice = $state<string | null>(null);
  value = $state<string | null>(null);
  step = $state<string | null>(null);
  order = $state<string[]>([]);
  zones = $state<Zone[]>([]);
  drop = $state(10);
  #coming: Promise<Exercise | null> | null = null;
  #turn = 0;

  /** ``wanted`` is the kind that the address names, if there is such a kind. */
  async load(wanted: string | null): Promise<void> {
    const found = await tried(ask(api.GET('/api/drill')));
    if (!found) this.failed = 'The exercises could not be loaded.';
    else this.kinds = found.kinds;
    this.kind = this.kinds.find((each) => each.id === wanted)?.id ?? '';
    await this.next();
  }

  /** Another kind or level: what was fetched ahead is of the old one. */
  async choose(kind: Kind | '', level: number): Promise<void> {
    [this.kind, this.level, this.#coming] = [kind, level, null];
    await this.next();
  }

  async next(): Promise<void> {
    this.busy = true;
    this.#turn += 1;
    const turn = this.#turn;
    const found = await (this.#coming ?? this.#fetch());
    // Another kind was chosen meanwhile: what comes now is of the old one.
    if (turn !== this.#turn) return;
    this.#coming = null;
    this.busy = false;
    if (!found) {
      this.failed ||= 'No exercise came. Try another kind or level.';
      return;
    }
    this.failed = '';
    [this.asked, this.marked] = [found, null];
    [this.choice, this.value, this.step, this.zones, this.drop] = [null, null, null, [], 10];
    this.order = found.steps.map((each) => each.id);
  }

  /** Whether enough was said to be marked. */
  get ready(): boolean {
    const asked = this.asked;
    if (!asked || this.marked) return false;
    if (asked.kind === 'fault') return this.step !== null && this.choice !== null;
    if (asked.values.length) return this.zones.length > 0 && this.value !== null;
    if (asked.zones.length) return this.zones.length > 0;
    return asked.choices.length === 0 || this.choice !== null;
  }

  async answer(): Promise<void> {
    const asked = this.asked;
    if (!asked || !this.ready || this.busy) return;
    const body: Answer = {};
    if (asked.kind === 'order') body.order = this.order;
    if (asked.kind === 'depth') body.drop = this.drop;
    if (asked.kind === 'fault' && this.step) body.step = this.step;
    if (asked.zones.length) body.zones = this.zones;
    if (asked.choices.length && this.choice) body.choice = this.choice;
    if (asked.values.length && this.value) body.value = this.value;
    this.busy = true;
    const marked = await tried(
      ask(api.POST('/api/drill/exercises/{id}/answer', { params: { path: { id: asked.id } }, body })),
    );
    this.busy = false;
    if (!marked) return;
    this.marked = marked;
    this.answered += 1;
    this.points += marked.score;
    this.#answers = [...this.#answers.slice(-400), { level: asked.level as 1, score: marked.score }];
    this.#coming = this.#fetch();
  }

  move(id: string, by: number): void {
    const at = this.order.indexOf(id);
    const to = at + by;
    if (this.marked || at < 0 || to < 0 || to >= this.order.length) return;
    const order = this.order.filter((each) => each !== id);
    this.order = [...order.slice(0, to), id, ...order.slice(to)];
  }

  paint(zone: Zone): void {
    if (this.marked || !this.asked?.zones.includes(zone)) return;
    this.zones = this.zones.includes(zone)
      ? this.zones.filter((each) => each !== zone)
      : [...this.zones, zone];
  }

  async #fetch(): Promise<Exercise | null> {
    const body = {
      ...(this.kind ? { kind: this.kind } : {}),
      ...(this.level ? { level: this.level as 1 } : {}),
      answered: this.#answers,
    };
    return tried(ask(api.POST('/api/drill/exercises', { body })));
  }
}
