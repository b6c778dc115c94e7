import { api, ask, type Schemas } from '../../api/client';
import { tried } from '../../parts/tried';
import { words } from '../../parts/vocabulary.svelte';
import { Resource } from '../../parts/resource.svelte';

export type Exercise = Schemas['ExerciseWire'];
export type DrillMark = Schemas['DrillMarkWire'];
export type Follows = Schemas['FollowsWire'];
export type Session = Schemas['DrillSessionWire'];
export type SessionRecap = Schemas['SessionRecapWire'];
export type Kind = Exercise['kind'];
type Answer = Schemas['DrillAnswerBody'];
type Zone = Exercise['zones'][number];

/** What is asked for when a session begins. */
export interface Wish {
  /** Whose practice it is; empty for who is signed in. */
  student: string;
  /** Whether it is kept. */
  graded: boolean;
  minutes: number | null;
  kind: Kind | '';
  /** The level that is wanted; 0 is the one that fits. */
  level: number;
  code: string;
}

/** A drill: a session is begun, exercises are asked one at a time, and at its end it is looked back on. */
export class DrillState {
  all = $state.raw<Schemas['DrillsWire'] | null>(null);
  session = $state.raw<Session | null>(null);
  recap = $state.raw<SessionRecap | null>(null);
  asked = $state.raw<Exercise | null>(null);
  marked = $state.raw<DrillMark | null>(null);
  follows = $state.raw<Follows | null>(null);
  /** An answer of a test was taken: it is marked at the end. */
  taken = $state(false);
  /** The exercises there are, and whose practice is kept. */
  readonly opening = new Resource(
    () => Promise.all([ask(api.GET('/api/drill')), words.load()]),
    ([found]) => (this.all = found),
  );
  /** Whether the exercise that was asked for did not come. */
  missed = $state(false);
  busy = $state(false);
  answered = $state(0);
  of = $state<number | null>(null);
  /** Seconds that are left, by the server's clock; null without an end. */
  left = $state<number | null>(null);
  choice = $state<string | null>(null);
  value = $state<string | null>(null);
  step = $state<string | null>(null);
  order = $state<string[]>([]);
  zones = $state<Zone[]>([]);
  drop = $state(10);
  #shown = 0;
  /** How far the server's clock is ahead of this one, in ms. */
  #ahead = 0;

  async begin(wish: Wish): Promise<void> {
    if (this.busy) return;
    this.busy = true;
    const found = await tried(
      ask(
        api.POST('/api/drill/sessions', {
          body: {
            ...(wish.graded ? {} : { ungraded: true }),
            ...(wish.graded && wish.student ? { student: wish.student } : {}),
            ...(wish.code ? { code: wish.code } : {}),
            ...(wish.minutes && !wish.code ? { minutes: wish.minutes } : {}),
            ...(wish.kind && !wish.code ? { kinds: [wish.kind] } : {}),
            ...(wish.level && !wish.code ? { level: wish.level as 1 } : {}),
          },
        }),
      ),
    );
    this.busy = false;
    if (!found) return;
    [this.session, this.recap, this.asked, this.answered, this.of] = [found, null, null, 0, found.exercises];
    this.#ahead = Date.parse(found.clock) - Date.now();
    this.tick();
    await this.next();
  }

  /** The time goes on; what is open when it is up may still be answered for a moment. */
  tick(): void {
    this.left = this.session?.ends
      ? Math.max(0, (Date.parse(this.session.ends) - Date.now() - this.#ahead) / 1000)
      : null;
  }

  get over(): boolean {
    return this.left === 0;
  }

  async next(setAside = false): Promise<void> {
    if (!this.session || this.busy) return;
    if (this.over) return this.end();
    this.busy = true;
    const found = await tried(
      ask(
        api.POST('/api/drill/sessions/{id}/exercises', {
          params: { path: { id: this.session.id } },
          body: { set_aside: setAside },
        }),
      ),
    );
    this.busy = false;
    if (!found) {
      this.missed = true;
      return;
    }
    [this.missed, this.answered, this.of] = [false, found.answered, found.of];
    if (!found.exercise) return this.end();
    [this.asked, this.marked, this.follows, this.taken] = [found.exercise, null, null, false];
    [this.choice, this.value, this.step, this.zones, this.drop] = [null, null, null, [], 10];
    this.order = found.exercise.steps.map((each) => each.id);
    this.#shown = performance.now();
  }

  async end(): Promise<void> {
    if (!this.session || this.busy) return;
    this.busy = true;
    this.recap = await tried(
      ask(api.POST('/api/drill/sessions/{id}/end', { params: { path: { id: this.session.id } }, body: {} })),
    );
    this.busy = false;
    if (this.recap) [this.asked, this.session, this.marked] = [null, null, null];
  }

  /** Whether enough was said to be marked. */
  get ready(): boolean {
    const asked = this.asked;
    if (!asked || this.marked || this.taken) return false;
    if (asked.kind === 'fault') return this.step !== null && this.choice !== null;
    if (asked.values.length) return this.zones.length > 0 && this.value !== null;
    if (asked.zones.length) return this.zones.length > 0;
    return asked.choices.length === 0 || this.choice !== null;
  }

  async answer(): Promise<void> {
    const asked = this.asked;
    if (!asked || !this.session || !this.ready || this.busy) return;
    const body: Answer = { seconds: (performance.now() - this.#shown) / 1000 };
    if (asked.kind === 'order') body.order = this.order;
    if (asked.kind === 'depth') body.drop = this.drop;
    if (asked.kind === 'fault' && this.step) body.step = this.step;
    if (asked.zones.length) body.zones = this.zones;
    if (asked.choices.length && this.choice) body.choice = this.choice;
    if (asked.values.length && this.value) body.value = this.value;
    const path = { id: this.session.id, exercise: asked.id };
    this.busy = true;
    const found = await tried(
      ask(api.POST('/api/drill/sessions/{id}/exercises/{exercise}/answer', { params: { path }, body })),
    );
    this.busy = false;
    if (!found) return;
    [this.marked, this.answered, this.of] = [found.mark, found.answered, found.of];
    this.taken = found.mark === null;
    if (this.taken) return this.next();
    const follows = await tried(
      ask(api.GET('/api/drill/sessions/{id}/exercises/{exercise}/follows', { params: { path } })),
    );
    // Another exercise may be asked by now.
    if (this.asked?.id === asked.id) this.follows = follows;
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

  /** What Enter and the foot pedal do: begin nothing, answer, go on. */
  go(): void {
    if (!this.session) return;
    void (this.marked ? this.next() : this.answer());
  }
}
