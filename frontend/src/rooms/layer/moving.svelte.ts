import { api, ask, type Gap, type Step, type Trial } from '../../api/client';
import { Latest } from '../../parts/latest';
import { notices } from '../../parts/notices.svelte';
import type { WorkbenchState } from './workbench.svelte';

/** A step that was picked up: the places it could stand, and what the one it is held over would do. */
export class Moving {
  step = $state.raw<Step | null>(null);
  gaps = $state.raw<Gap[]>([]);
  /** Index of the gap it is held over. */
  over = $state(0);
  trial = $state.raw<Trial | null>(null);
  /** Picked up with the keyboard or a button: it stays up until it is put down. */
  stays = $state(false);
  #asked = new Latest();
  #wait: ReturnType<typeof setTimeout> | undefined;

  constructor(readonly bench: WorkbenchState) {}

  get gap(): Gap | null {
    return this.step ? (this.gaps[this.over] ?? null) : null;
  }

  async pick(step: Step, stays: boolean) {
    if (this.bench.doc.underway) return;
    this.step = step;
    this.stays = stays;
    this.trial = null;
    this.gaps = [];
    const params = { path: { id: this.bench.id, step: step.id } };
    try {
      const found = await this.#asked.of(ask(api.GET('/api/sequences/{id}/steps/{step}/gaps', { params })));
      if (!found) return;
      this.gaps = found.gaps;
      this.over = found.gaps.findIndex((gap) => gap.here);
    } catch (error) {
      this.leave();
      notices.refuse(error);
    }
  }

  /** Hold it over a gap; what that would do is asked once it rests there. */
  hold(over: number) {
    if (!this.gaps.length) return;
    const next = Math.max(0, Math.min(this.gaps.length - 1, over));
    if (next === this.over) return;
    this.over = next;
    this.trial = null;
    this.#asked.drop();
    clearTimeout(this.#wait);
    const gap = this.gap;
    const step = this.step;
    if (!gap || !step || gap.here || gap.refused) return;
    const edits = [{ edit: 'move' as const, step: step.id, before: gap.before }];
    this.#wait = setTimeout(() => {
      void this.#asked.of(this.bench.doc.attempt(edits)).then((trial) => {
        if (trial !== undefined) this.trial = trial;
      });
    }, 60);
  }

  /** Hold it before the step at this place in the order as it stands; the number of steps is the end. */
  holdAt(place: number) {
    const own = this.gaps.findIndex((gap) => gap.here);
    this.hold(place > own ? place - 1 : place);
  }

  /** Put it down; over an impossible gap it goes back, and says why. */
  async put() {
    const { gap, step } = this;
    this.leave();
    if (!gap || !step || gap.here) return;
    if (gap.refused) notices.say(`Not there. ${gap.refused}.`, true);
    else await this.bench.doc.edit([{ edit: 'move', step: step.id, before: gap.before }]);
  }

  leave() {
    this.step = null;
    this.trial = null;
    this.stays = false;
    this.#asked.drop();
    clearTimeout(this.#wait);
  }

  /** Keys while a step is up: arrows hold it elsewhere, Enter puts it down, Escape leaves it. */
  key(event: KeyboardEvent) {
    if (!this.step) return;
    const by = { ArrowUp: -1, ArrowLeft: -1, ArrowDown: 1, ArrowRight: 1 }[event.key];
    if (by !== undefined) this.hold(this.over + by);
    else if (event.key === 'Home') this.hold(0);
    else if (event.key === 'End') this.hold(this.gaps.length - 1);
    else if (event.key === 'Enter' || event.key === ' ') {
      if (event.target instanceof HTMLButtonElement && event.target.closest('[data-moving]')) return;
      void this.put();
    } else if (event.key === 'Escape') this.leave();
    else return;
    event.preventDefault();
    event.stopPropagation();
  }
}
