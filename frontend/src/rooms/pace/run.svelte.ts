import { api, ask, Refusal, type Block, type Edit, type Live } from '../../api/client';
import { Resource } from '../../parts/resource.svelte';
import { Bell } from './bell.svelte';
import { forget, keep, kept } from './kept-run';
import * as runLog from './run-log';
import { LogSending } from './sending.svelte';

/** A run as it is worked: its clock, the block in hand, and the log, which is kept in this browser until the server has it. */
export class RunState {
  live = $state.raw<Live | null>(null);
  log = $state.raw<runLog.FullLog>(runLog.EMPTY);
  now = $state(0);
  /** The block in hand; null once nothing is left to do. */
  current = $state<string | null>(null);
  /** When the hands turned to the block in hand. */
  turned = $state(0);
  pausedAt = $state<number | null>(null);
  /** How long nobody was here, where the page was left and opened again; seconds. */
  away = $state(0);
  readonly bell = new Bell();
  readonly sending: LogSending;

  constructor(readonly id: string) {
    this.sending = new LogSending(id);
  }

  readonly blocks = $derived(this.live?.blocks ?? []);
  readonly finished = $derived(this.live?.finished ?? false);
  readonly block = $derived(this.blocks.find((each) => each.id === this.current) ?? null);
  readonly open = $derived(runLog.open(this.blocks, this.log));
  readonly next = $derived(this.open.find((each) => each.id !== this.current) ?? null);
  readonly ready = $derived(this.block ? runLog.readyAt(this.block, this.log) : null);
  readonly due = $derived(this.block ? runLog.dueAt(this.block, this.log) : null);
  readonly waits = $derived(this.ready ? Math.max(0, this.ready.at - this.now) : 0);
  readonly meanwhile = $derived(
    this.block && this.waits > 0
      ? runLog.meanwhile(this.blocks, this.log, this.now, this.block).slice(0, 3)
      : [],
  );
  /** What can be mixed or laid out in a wait: for the next block that wants it. */
  readonly makeReady = $derived(
    this.waits > 0
      ? (runLog.open(this.blocks, this.log).find((each) => each.make_ready)?.make_ready ?? '')
      : '',
  );
  readonly late = $derived(runLog.late(this.blocks, this.log, this.now));
  readonly skipped = $derived(runLog.skipped(this.blocks, this.log));
  /** When work on the block in hand could begin: when the hands turned to it, or when its wait was over. */
  readonly from = $derived(
    this.ready && this.ready.at <= this.now ? Math.max(this.turned, this.ready.at) : this.turned,
  );
  readonly last = $derived(this.blocks.find((each) => each.step === this.log.done.at(-1)?.step) ?? null);

  /** What lies on the face with nothing over it yet, and for how long by now: as the core said, and the clock since. */
  readonly resting = $derived.by(() =>
    Object.entries(this.sending.says?.rest ?? {})
      .map(([step, seconds]) => ({
        title: this.blocks.find((each) => each.step === step)?.title ?? '',
        seconds: seconds + this.now - this.sending.saidAt,
      }))
      .filter((each) => each.title)
      .slice(0, 4),
  );

  readonly opening = new Resource(() => this.#open());

  async #open() {
    const stored = kept(this.id);
    try {
      const live = await ask(api.GET('/api/runs/{id}', { params: { path: { id: this.id } } }));
      this.live = live;
      // What was tapped here and not sent yet goes before what the server has.
      this.log = stored?.unsent ? stored.log : runLog.full(live.log);
      this.sending.unsent = stored?.unsent ?? false;
    } catch (error) {
      if (!stored || (error instanceof Refusal && error.status !== 0)) throw error;
      [this.live, this.log] = [stored.live, stored.log];
      [this.sending.unsent, this.sending.offline] = [stored.unsent, true];
    }
    this.tick();
    this.pausedAt = stored?.pausedAt ?? null;
    const still = stored?.current && this.open.some((each) => each.id === stored.current);
    this.current = still ? stored.current : (this.open[0]?.id ?? null);
    this.turned = still ? stored.turned : (this.log.done.at(-1)?.to_s ?? 0);
    if (stored && this.log.done.length) this.away = Math.max(0, this.now - (this.log.done.at(-1)?.to_s ?? 0));
    this.#save();
    if (this.finished) await this.sending.report();
    else void this.send();
  }

  /** The clock of the run. It goes on in a pause, since films dry whether anybody works or not. */
  tick() {
    if (!this.live) return;
    this.now = Math.max(0, (Date.now() - Date.parse(this.live.started)) / 1000);
    if (this.finished) return;
    const { block, ready, turned, open, log, now } = this;
    if (block && this.pausedAt === null) this.bell.ring({ block, ready, turned, open, log, now });
    if (this.sending.due(now)) void this.send();
  }

  /** The block in hand is done; the next one comes. */
  advance() {
    if (this.pausedAt !== null) return this.resume();
    if (!this.block) return;
    this.#turnTo(runLog.withDone(this.log, this.block, this.from, this.now, 'done'));
  }

  back() {
    const before = runLog.withoutLast(this.log);
    if (!before || this.finished) return;
    this.log = before.log;
    [this.current, this.turned] = [before.block, before.from];
    this.#changed();
  }

  /** The last block was done once more. */
  twice() {
    const block = this.last;
    if (!block) return;
    this.log = runLog.withDone(this.log, block, this.turned, this.now, 'again');
    this.turned = this.now;
    this.#changed();
  }

  skip() {
    if (this.block) this.#turnTo(runLog.withDone(this.log, this.block, this.now, this.now, 'skipped'));
  }

  choose(id: string) {
    [this.current, this.turned] = [id, this.now];
    this.#changed();
  }

  pause() {
    this.pausedAt = this.now;
    this.#changed();
  }

  resume() {
    if (this.pausedAt === null) return;
    this.log = runLog.withPause(this.log, this.pausedAt, this.now);
    this.pausedAt = null;
    this.#changed();
  }

  note(text: string) {
    this.log = runLog.withNote(this.log, this.now, text);
    this.#changed();
  }

  /** Change the plan as it is worked: another product, a step more. What was done stays done. */
  async change(edits: Edit[]) {
    const live = this.live;
    if (!live) return;
    const plan = await ask(
      api.POST('/api/sequences/{id}/edits', {
        params: { path: { id: live.plan_id } },
        body: { revision: live.revision, edits },
      }),
    );
    await ask(
      api.PUT('/api/runs/{id}', {
        params: { path: { id: this.id } },
        body: { log: this.log, revision: plan.revision },
      }),
    );
    this.live = await ask(api.GET('/api/runs/{id}', { params: { path: { id: this.id } } }));
    if (!this.open.some((each) => each.id === this.current)) this.current = this.open[0]?.id ?? null;
    this.sending.unsent = false;
    this.#save();
  }

  async finish() {
    this.resume();
    await this.send(true);
  }

  /** Send the log; where the server does not answer it is kept and sent again. */
  async send(finish = false) {
    const taken = await this.sending.send(
      () => this.log,
      () => this.now,
      finish,
    );
    if (taken === null) return;
    if (taken && finish && this.live) this.live = { ...this.live, finished: true };
    if (this.finished) forget(this.id);
    else this.#save();
  }

  #turnTo(log: runLog.FullLog) {
    this.log = log;
    this.current = this.open[0]?.id ?? null;
    this.turned = this.now;
    this.away = 0;
    this.#changed();
    if (this.block) this.bell.announce(this.block);
  }

  #changed() {
    this.sending.unsent = true;
    this.#save();
    void this.send();
  }

  #save() {
    const { live, log, current, turned, pausedAt, sending } = this;
    if (live && !live.finished)
      keep(this.id, { live, log, current, turned, pausedAt, unsent: sending.unsent });
  }
}

export type { Block };
