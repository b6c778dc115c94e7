import type { WorkbenchState } from './workbench.svelte';

/** Milliseconds that a layer is looked at while the base is built by itself. */
const LOOK_MS = 800;

/** The base being built by itself, a layer at a time: from the layer shown, or from bare skin where all are on. */
export class Building {
  running = $state(false);
  #next: ReturnType<typeof setTimeout> | undefined;

  constructor(readonly bench: WorkbenchState) {}

  toggle() {
    if (this.running) this.stop();
    else this.#start();
  }

  stop() {
    this.running = false;
    clearTimeout(this.#next);
  }

  #start() {
    const last = (this.bench.doc.plan?.steps.length ?? 0) - 1;
    if (last < 0) return;
    this.running = true;
    this.bench.stage.choose(this.bench.stage.shown >= last ? -1 : this.bench.stage.shown);
    this.#wait(last);
  }

  #wait(last: number) {
    const shown = this.bench.stage.at;
    this.#next = setTimeout(() => {
      // Whoever chooses another layer meanwhile takes over.
      if (this.bench.stage.at !== shown) return this.stop();
      this.bench.stage.choose(shown + 1);
      if (shown + 1 >= last) this.stop();
      else this.#wait(last);
    }, LOOK_MS);
  }
}
