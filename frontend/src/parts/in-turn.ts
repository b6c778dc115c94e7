/** Work that is done one after another: each begins when the one before has ended, well or not. */
export class InTurn {
  #last: Promise<unknown> = Promise.resolve();

  run<T>(work: () => Promise<T>): Promise<T> {
    const next = this.#last.then(work, work);
    this.#last = next.catch(() => undefined);
    return next;
  }
}
