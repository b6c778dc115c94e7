import {
  api,
  ask,
  type Edit,
  type RunRow,
  type Schemas,
  type Score,
  type Timing,
  type Tool,
} from '../../api/client';
import { inHand } from '../../parts/in-hand.svelte';
import { Latest } from '../../parts/latest';
import { notices } from '../../parts/notices.svelte';
import { pacesOf } from '../../parts/paces';
import { tried } from '../../parts/tried';
import { words } from '../../parts/vocabulary.svelte';
import { Resource } from '../../parts/resource.svelte';

/** The state of the Pace room: whose hands, fixed moments, and the timetable that the core found for them. */
export class PaceState {
  score = $state.raw<Score | null>(null);
  /** What would shorten it: asked for once the score is there, since it takes as long as several scores. */
  whatIf = $state.raw<Schemas['WhatIf'][] | null>(null);
  pace = $state('1');
  hands = $state<'1' | '2'>('1');
  spare = $state.raw<Tool[]>([]);
  /** Start, ready, what was done already, pins and sides as asked for; null until the plan's own are known. */
  timing = $state.raw<Timing | null>(null);
  /** The step that is pointed at, in every lane and in the list. */
  pointed = $state<string | null>(null);
  runs = $state.raw<RunRow[]>([]);
  hand = $state.raw<Schemas['HandWire'] | null>(null);
  #shorter = new Latest();
  #stop: AbortController | null = null;
  /** What the last timetable that was found was asked with, to go back to. */
  #before: Timing | null = null;

  constructor(readonly id: string) {}

  readonly paces = $derived(
    [...pacesOf(this.score?.student_pace ?? 2), ...this.#learnt()].sort(
      (one, other) => Number(one.id) - Number(other.id),
    ),
  );
  readonly table = $derived(this.score?.timetable ?? null);
  readonly start = $derived(this.timing?.start ?? '');
  readonly pins = $derived(
    Object.fromEntries((this.timing?.pins ?? []).map((pin) => [pin.step, pin.start_s])) as Partial<
      Record<string, number>
    >,
  );
  readonly body = $derived({
    pace: Number(this.pace),
    hands: Number(this.hands),
    spare: this.spare,
    timing: this.timing,
  });

  #learnt() {
    return this.hand ? [{ id: String(this.hand.pace), words: `As learnt, ${this.hand.pace} times` }] : [];
  }

  /** The timetable for these hands, tools and moments; each asking puts an end to the one before. */
  readonly finding = new Resource(
    async () => {
      this.#shorter.drop();
      this.#stop?.abort();
      this.#stop = new AbortController();
      const { body } = this;
      const { signal } = this.#stop;
      const params = { path: { id: this.id } };
      await words.load();
      return ask(api.POST('/api/sequences/{id}/timetable', { params, body, signal }));
    },
    (found) => {
      this.score = found;
      this.timing = found.timing;
      if (found.timetable.possible) this.#before = found.timing;
      void this.#shorten();
      inHand.takePlan(
        { id: found.sitter_id, name: found.nickname },
        { id: found.plan_id, name: found.title },
      );
    },
  );

  find() {
    return this.finding.load();
  }

  async #shorten() {
    this.whatIf = null;
    const path = { id: this.id };
    const found = await tried(
      this.#shorter.of(
        ask(api.POST('/api/sequences/{id}/timetable/what-if', { params: { path }, body: this.body })),
      ),
    );
    if (found !== undefined) this.whatIf = found?.what_if ?? [];
  }

  /** Stop looking; what was found before stands. */
  cancel() {
    this.finding.drop();
    this.#shorter.drop();
    this.#stop?.abort();
    this.timing = this.#before;
  }

  /** Ask again for other hands or tools. */
  change(fields: { pace?: string; hands?: '1' | '2'; spare?: Tool[] }) {
    this.pace = fields.pace ?? this.pace;
    this.hands = fields.hands ?? this.hands;
    this.spare = fields.spare ?? this.spare;
    return this.find();
  }

  /** Ask again with other fixed moments. */
  time(fields: Partial<Timing>) {
    this.timing = { ...(this.timing ?? {}), ...fields };
    return this.find();
  }

  /** Let a step start at a second, to the nearest five; the rest gives way, or the room says why not. */
  pin(step: string, at: number) {
    const others = (this.timing?.pins ?? []).filter((pin) => pin.step !== step);
    return this.time({ pins: [...others, { step, start_s: Math.max(0, Math.round(at / 5) * 5) }] });
  }

  unpin(step: string) {
    return this.time({ pins: (this.timing?.pins ?? []).filter((pin) => pin.step !== step) });
  }

  /** Whether fixed moments were asked for that the plan does not keep yet. */
  readonly unsaved = $derived(
    this.score !== null && JSON.stringify(this.timing) !== JSON.stringify(this.score.saved),
  );

  /** Keep the fixed moments in the plan. */
  save() {
    return this.edit([{ edit: 'timing', timing: this.timing }]);
  }

  /** Change how long a step rests: a change of the plan, after which the score is found anew. */
  rest(step: string, wait_s: number, wait_at_most_s: number | null) {
    return this.edit([{ edit: 'wait', step, wait_s, wait_at_most_s }]);
  }

  /** Change the plan, and find its score anew. */
  async edit(edits: Edit[]) {
    const revision = this.score?.revision;
    if (revision === undefined) return;
    try {
      await ask(
        api.POST('/api/sequences/{id}/edits', {
          params: { path: { id: this.id } },
          body: { revision, edits },
        }),
      );
    } catch (error) {
      notices.refuse(error);
    }
    await this.find();
  }

  /** Back to the fixed moments of the last timetable that there was. */
  goBack() {
    this.timing = this.#before ?? {};
    return this.find();
  }

  async listRuns() {
    const found = await tried(ask(api.GET('/api/sequences/{id}/run', { params: { path: { id: this.id } } })));
    if (found) [this.runs, this.hand] = [found.runs, found.hand];
  }

  /** Begin a run in the order found; its id. */
  async begin(): Promise<string> {
    const live = await ask(
      api.POST('/api/sequences/{id}/run', { params: { path: { id: this.id } }, body: this.body }),
    );
    return live.run_id;
  }
}
