import { outlivePage } from '../api/client';

/** What waits for its turn, of every room: it is begun at once when the page is left, or it would be lost with it. */
const waiting = new Set<() => Promise<unknown>>();

globalThis.addEventListener?.('pagehide', () => {
  outlivePage();
  for (const begin of waiting) void begin().catch(() => undefined);
});

/** Work that is done one after another: each begins when the one before has ended, well or not. */
export class InTurn {
  #last: Promise<unknown> = Promise.resolve();

  run<T>(work: () => Promise<T>): Promise<T> {
    let begun: Promise<T> | undefined;
    const begin = () => {
      waiting.delete(begin);
      return (begun ??= work());
    };
    waiting.add(begin);
    const next = this.#last.then(begin, begin);
    this.#last = next.catch(() => undefined);
    return next;
  }
}
