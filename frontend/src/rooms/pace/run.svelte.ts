import { api, ask, Refusal, type Block, type Edit, type Live, type RunSays } from '../../api/client';
import { clock } from './clock';
import * as runLog from './run-log';
import { heard, saveHeard, sound, type Heard } from './sounds';
import { reason } from '../../parts/reason';
import { Resource } from '../../parts/resource.svelte';

interface Kept {
  live: Live;
  log: runLog.FullLog;
  current: string | null;
  turned: number;
  pausedAt: number | null;
  unsent: boolean;
}

/** Seconds between tries to send what the server has not got yet. */
const AGAIN_S = 4;
/** So many seconds before a longest wait runs out it is heard. */
const WARN_S = 15;

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
  unsent = $state(false);
  offline = $state(false);
  /** Why the server did not take what was sent; the run goes on. */
  refused = $state<string | null>(null);
  says = $state.raw<RunSays | null>(null);
  heard = $state<Heard>(heard());
  /** How long nobody was here, where the page was left and opened again; seconds. */
  away = $state(0);
  #sending = false;
  /** The second of the run at which what lies on the face was worked out. */
  #saidAt = $state(0);
  #lastTry = 0;
  #rang: string[] = [];

  constructor(readonly id: string) {}

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
  readonly resting = $derived(
    Object.entries(this.says?.rest ?? {})
      .map(([step, seconds]) => ({
        title: this.blocks.find((each) => each.step === step)?.title ?? '',
        seconds: seconds + this.now - this.#saidAt,
      }))
      .filter((each) => each.title)
      .slice(0, 4),
  );

  readonly opening = new Resource(() => this.#open());

  async #open() {
    const stored = this.#stored();
    try {
      const live = await ask(api.GET('/api/runs/{id}', { params: { path: { id: this.id } } }));
      this.live = live;
      // What was tapped here and not sent yet goes before what the server has.
      this.log = stored?.unsent ? stored.log : runLog.full(live.log);
      this.unsent = stored?.unsent ?? false;
    } catch (error) {
      if (!stored || (error instanceof Refusal && error.status !== 0)) throw error;
      [this.live, this.log, this.unsent, this.offline] = [stored.live, stored.log, stored.unsent, true];
    }
    this.tick();
    this.pausedAt = stored?.pausedAt ?? null;
    const still = stored?.current && this.open.some((each) => each.id === stored.current);
    this.current = still ? stored.current : (this.open[0]?.id ?? null);
    this.turned = still ? stored.turned : (this.log.done.at(-1)?.to_s ?? 0);
    if (stored && this.log.done.length) this.away = Math.max(0, this.now - (this.log.done.at(-1)?.to_s ?? 0));
    this.#save();
    if (this.finished) await this.report();
    else void this.send();
  }

  /** The clock of the run. It goes on in a pause, since films dry whether anybody works or not. */
  tick() {
    if (!this.live) return;
    this.now = Math.max(0, (Date.now() - Date.parse(this.live.started)) / 1000);
    if (this.finished) return;
    this.#ring();
    if (this.unsent && !this.#sending && this.now - this.#lastTry > AGAIN_S) void this.send();
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

  hear(how: Heard) {
    this.heard = how;
    saveHeard(how);
    sound('Sound is on.', how);
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
    this.unsent = false;
    this.#save();
  }

  async finish() {
    this.resume();
    await this.send(true);
  }

  /** Send the log; where the server does not answer it is kept and sent again. */
  async send(finish = false) {
    if (this.#sending) return;
    this.#sending = true;
    this.#lastTry = this.now;
    const sent = this.log;
    try {
      this.says = await ask(
        api.PUT('/api/runs/{id}', {
          params: { path: { id: this.id } },
          body: { log: sent, finish, now_s: Math.min(86400, this.now) },
        }),
      );
      this.#saidAt = Math.min(86400, this.now);
      this.offline = false;
      this.refused = null;
      if (this.log === sent) this.unsent = false;
      if (finish && this.live) this.live = { ...this.live, finished: true };
    } catch (error) {
      this.offline = error instanceof Refusal && error.status === 0;
      if (!this.offline) this.refused = reason(error);
      // What the server refuses is not sent over and over.
      if (this.offline) this.unsent = true;
    } finally {
      this.#sending = false;
      if (this.finished) localStorage.removeItem(this.#key);
      else this.#save();
    }
  }

  async report() {
    this.says = await ask(api.GET('/api/runs/{id}/says', { params: { path: { id: this.id } } }));
  }

  #turnTo(log: runLog.FullLog) {
    this.log = log;
    this.current = this.open[0]?.id ?? null;
    this.turned = this.now;
    this.away = 0;
    this.#changed();
    if (this.block) this.#say(`${this.block.title} ${this.block.where}. ${this.block.cues.join(' ')}`, true);
  }

  #changed() {
    this.unsent = true;
    this.#save();
    void this.send();
  }

  #say(line: string, spokenOnly = false) {
    if (!spokenOnly || this.heard === 'spoken') sound(line, this.heard);
  }

  /** Once each: a wait that is over, and a longest wait that is about to run out. */
  #ring() {
    const block = this.block;
    if (!block || this.pausedAt !== null) return;
    if (this.ready && this.ready.at > this.turned && this.now >= this.ready.at)
      this.#once(`ready ${block.id} ${this.ready.at}`, `Ready: ${block.title}.`);
    const soon = this.open
      .map((each) => ({ each, due: runLog.dueAt(each, this.log) }))
      .find((row) => row.due && row.due.at - WARN_S <= this.now && this.now <= row.due.at);
    if (soon?.due)
      this.#once(
        `due ${soon.each.id} ${soon.due.at}`,
        `${soon.each.title} within ${clock(soon.due.at - this.now)}.`,
      );
  }

  #once(name: string, line: string) {
    if (this.#rang.includes(name)) return;
    this.#rang.push(name);
    this.#say(line);
  }

  get #key() {
    return `nabrel run ${this.id}`;
  }

  #save() {
    const { live, log, current, turned, pausedAt, unsent } = this;
    if (!live || live.finished) return;
    localStorage.setItem(this.#key, JSON.stringify({ live, log, current, turned, pausedAt, unsent }));
  }

  #stored(): Kept | null {
    try {
      return JSON.parse(localStorage.getItem(this.#key) ?? 'null') as Kept | null;
    } catch {
      return null;
    }
  }
}

export type { Block };
