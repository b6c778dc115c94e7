import { api, ask, Refusal, type RunSays } from '../../api/client';
import { reason } from '../../parts/reason';
import type { FullLog } from './run-log';

/** Seconds between tries to send what the server has not got yet. */
const AGAIN_S = 4;
/** A run is timed for a day at most. */
const LONGEST_S = 24 * 3600;

/** The log of a run on its way to the server, and what the server says of it. */
export class LogSending {
  /** Something was tapped that the server has not got. */
  unsent = $state(false);
  offline = $state(false);
  /** Why the server did not take what was sent; the run goes on. */
  refused = $state<string | null>(null);
  says = $state.raw<RunSays | null>(null);
  /** The second of the run at which that was said. */
  saidAt = $state(0);
  #busy = false;
  #lastTry = 0;

  constructor(private readonly id: string) {}

  /** Whether the log is to be sent again by itself: not what was refused, and not at once. */
  due(now: number): boolean {
    return this.unsent && !this.refused && !this.#busy && now - this.#lastTry > AGAIN_S;
  }

  /** Send the log as it stands; where the server does not answer it stays unsent. Whether it was taken; null while another is on its way. */
  async send(log: () => FullLog, now: () => number, finish = false): Promise<boolean | null> {
    if (this.#busy) return null;
    this.#busy = true;
    this.#lastTry = now();
    const sent = log();
    try {
      this.says = await ask(
        api.PUT('/api/runs/{id}', {
          params: { path: { id: this.id } },
          body: { log: sent, finish, now_s: Math.min(LONGEST_S, now()) },
        }),
      );
      this.saidAt = Math.min(LONGEST_S, now());
      this.offline = false;
      this.refused = null;
      if (log() === sent) this.unsent = false;
      return true;
    } catch (error) {
      this.offline = error instanceof Refusal && error.status === 0;
      if (!this.offline) this.refused = reason(error);
      this.unsent = true;
      return false;
    } finally {
      this.#busy = false;
    }
  }

  async report() {
    this.says = await ask(api.GET('/api/runs/{id}/says', { params: { path: { id: this.id } } }));
  }
}
