import { api, ask, Refusal, type Face, type Intent, type SitterRecord } from '../../api/client';
import { notices } from '../../parts/notices.svelte';
import { Resource } from '../../parts/resource.svelte';
import { words } from '../../parts/vocabulary.svelte';
import { Painting } from './painting.svelte';
import { Readings } from './readings.svelte';

interface Standing {
  record: SitterRecord;
  intent: Intent;
}

/** The state of the Read room: the face as it was read, changes to its record, and what can be taken back. */
export class ReadState {
  face = $state.raw<Face | null>(null);
  /** Set where the record was changed elsewhere: what was to be kept. */
  stale = $state.raw<Standing | null>(null);
  saving = $state(0);
  past = $state.raw<readonly Standing[]>([]);
  future = $state.raw<readonly Standing[]>([]);
  readonly painting = new Painting(this);
  readonly readings = new Readings(this);
  #queue: Promise<void> = Promise.resolve();

  readonly opening = new Resource(
    () =>
      Promise.all([
        ask(api.GET('/api/sitters/{id}/face', { params: { path: { id: this.id } } })),
        words.load(),
      ]),
    ([face]) => ([this.face, this.stale] = [face, null]),
  );

  constructor(readonly id: string) {}

  get #standing(): Standing | null {
    return this.face && { record: this.face.record, intent: this.face.intent };
  }

  /** Change the record or the wishes; what stood can be brought back. */
  change(next: Partial<Standing>) {
    const before = this.#standing;
    if (!before || !this.face) return;
    this.past = [...this.past, before];
    this.future = [];
    this.#save({ ...before, ...next });
  }

  set(fields: Partial<SitterRecord>) {
    if (this.face) this.change({ record: { ...this.face.record, ...fields } });
  }

  wish(fields: Partial<Intent>) {
    if (this.face) this.change({ intent: { ...this.face.intent, ...fields } });
  }

  undo() {
    this.#walk('past', 'future');
  }

  redo() {
    this.#walk('future', 'past');
  }

  #walk(from: 'past' | 'future', to: 'past' | 'future') {
    const [now, next] = [this.#standing, this[from].at(-1)];
    if (!now || !next) return;
    this[from] = this[from].slice(0, -1);
    this[to] = [...this[to], now];
    this.#save(next);
  }

  /** Show a change at once and keep it; changes are kept one after the other. */
  #save(next: Standing) {
    if (!this.face) return;
    this.face = { ...this.face, ...next };
    this.saving += 1;
    this.#queue = this.#queue.then(async () => {
      try {
        const version = this.face?.version ?? 0;
        const face = await ask(
          api.PUT('/api/sitters/{id}/face', {
            params: { path: { id: this.id } },
            body: { version, ...next },
          }),
        );
        // Later changes that still wait are shown already: their record stays, the version moves on.
        this.face =
          this.saving > 1 ? { ...face, record: this.face!.record, intent: this.face!.intent } : face;
      } catch (error) {
        if (error instanceof Refusal && error.stale) this.stale = next;
        else {
          notices.refuse(error);
          await this.opening.load();
        }
      } finally {
        this.saving -= 1;
      }
    });
  }

  /** The record was changed elsewhere: keep what was made here, on top of what stands. */
  async saveMine() {
    const mine = this.stale;
    await this.opening.load();
    if (mine) this.change(mine);
  }

  /** Move a stroke by so many mm from where the measures put it; nought puts it back. */
  move(stroke: string, mm: [number, number]) {
    if (!this.face) return;
    const moved = { ...this.face.record.moved };
    if (mm[0] === 0 && mm[1] === 0) delete moved[stroke];
    else moved[stroke] = mm;
    this.set({ moved });
  }

  /** Take a face that a reading answers, once what is being kept is kept. Throws the refusal. */
  async takeAnswer(call: () => Promise<Face>) {
    await this.#queue;
    this.face = await call();
    // What readings changed is not walked back by undo: they are dated and kept.
    this.past = [];
    this.future = [];
  }
}
