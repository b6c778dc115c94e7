import { api, ask, type ClassNow, type Schemas } from '../../api/client';
import { Resource } from '../../parts/resource.svelte';
import { tried } from '../../parts/tried';
import { clock } from '../pace/clock';

type Event = Schemas['EventBody'];
const ASKED_EVERY_MS = 2000;

/** A class as it goes: asked for again and again, so that every tablet and the projector show the same. */
export class LiveClass {
  now = $state.raw<ClassNow | null>(null);
  /** Whether the server was not reached at the last try. */
  away = $state(false);
  busy = $state(false);
  /** Seconds since the last answer, by this browser's own clock. */
  since = $state(0);
  #answered = 0;
  /** What is asked for again and again; an answer from before something happened does not count. */
  readonly asking = new Resource(
    () => ask(api.GET('/api/classes/{id}/now', { params: { path: { id: this.id } } })),
    (found) => this.#take(found),
  );

  constructor(readonly id: string) {}

  /** Seconds since the class began, going on between answers. */
  readonly at = $derived.by(() =>
    (this.now?.now_s ?? null) === null ? null : this.now!.now_s! + this.since,
  );

  start(): () => void {
    void this.ask();
    const asking = setInterval(() => void this.ask(), ASKED_EVERY_MS);
    const ticking = setInterval(() => (this.since = (Date.now() - this.#answered) / 1000), 500);
    return () => {
      clearInterval(asking);
      clearInterval(ticking);
    };
  }

  async ask(): Promise<void> {
    if (this.busy) return;
    await this.asking.load();
    // What was shown last stays: the class goes on.
    if (this.asking.failed) this.away = this.now !== null;
  }

  async happened(event: Event): Promise<boolean> {
    if (this.busy) return false;
    this.busy = true;
    // What was asked before does not know of it.
    this.asking.drop();
    const found = await tried(
      ask(api.POST('/api/classes/{id}/events', { params: { path: { id: this.id } }, body: event })),
    );
    this.busy = false;
    if (found) this.#take(found);
    return found !== null;
  }

  /** The part that is under way is over, or is left out. Sent twice it counts once. */
  next(skip = false): void {
    const part = this.part;
    if (part) void this.happened({ event: skip ? 'skip' : 'next', phase: part.phase, step: part.step });
  }

  get part() {
    return this.now?.current === null || !this.now ? null : (this.now.phases[this.now.current] ?? null);
  }

  /** How long the part that is under way has left, with a sign where it is over its time; empty outside of one. */
  get left(): string {
    if (!this.part || this.at === null) return '';
    const left = this.part.end_s - this.at;
    return left >= 0 ? clock(left) : `+${clock(-left)}`;
  }

  /** Whether every part is over. */
  get over(): boolean {
    return !!this.now?.begun && this.now.current === null;
  }

  get following() {
    return this.now?.phases.find((each) => each.standing === 'next') ?? null;
  }

  #take(found: ClassNow): void {
    this.now = found;
    this.away = false;
    this.#answered = Date.now();
    this.since = 0;
  }
}

export const PHASES = { demonstrate: 'Watch', practise: 'Practise', break: 'Break' } as const;
