import { api, ask, Refusal, type ClassList, type ClassRoom, type ClassShown } from '../../api/client';
import { InTurn } from '../../parts/in-turn';
import { notices } from '../../parts/notices.svelte';
import { tried } from '../../parts/tried';
import { reason } from '../../parts/reason';
import { words } from '../../parts/vocabulary.svelte';
import { Resource } from '../../parts/resource.svelte';

/** What is changed; a function of what is announced, where it depends on that. */
type Change = Partial<ClassRoom> | ((now: ClassShown) => Partial<ClassRoom>);

/** One class as it is announced and planned: changed in place, each change sent at once. */
export class ClassState {
  found = $state.raw<ClassShown | null>(null);
  lists = $state.raw<ClassList | null>(null);
  busy = $state(false);
  /** Why the last change was refused, until the next one. */
  refused = $state('');

  #turns = new InTurn();

  constructor(readonly id: string) {}

  readonly opening = new Resource(
    () =>
      Promise.all([
        ask(api.GET('/api/classes/{id}', { params: { path: { id: this.id } } })),
        ask(api.GET('/api/classes')),
        words.load(),
      ]),
    ([found, lists]) => ([this.found, this.lists] = [found, lists]),
  );

  /** What the plan would be on other skin, and what is got wrong in it: asked for when it is looked at. */
  readonly adapting = new Resource(() =>
    ask(api.GET('/api/sequences/{id}/adapting', { params: { path: { id: this.found?.room.plan ?? '' } } })),
  );

  /**
   * Change what is announced; what cannot be is refused with its reason, and nothing is changed. Changes go one
   * after another: one that depends on what is announced is asked for when its turn has come.
   */
  change(change: Change): Promise<boolean> {
    return this.#turns.run(() => this.#send(change));
  }

  async #send(change: Change): Promise<boolean> {
    const now = this.found;
    if (!now) return false;
    this.busy = true;
    this.refused = '';
    try {
      const fields = typeof change === 'function' ? change(now) : change;
      const body = { ...now.room, ...fields, version: now.version };
      this.found = await ask(api.PUT('/api/classes/{id}', { params: { path: { id: this.id } }, body }));
      return true;
    } catch (error) {
      this.refused = reason(error);
      if (error instanceof Refusal && error.stale) {
        notices.say('Somebody else changed this class: here is what it is now.', true);
        await this.opening.load();
      }
      return false;
    } finally {
      this.busy = false;
    }
  }

  /** Begin or join a block at a step. */
  async cut(step: string): Promise<void> {
    await this.change((now) => {
      const begins = now.borders.filter((each) => each.begins).map((each) => each.step);
      const cuts = begins.includes(step) ? begins.filter((each) => each !== step) : [...begins, step];
      return { cuts, pins: pinned(now, step) };
    });
  }

  /** A block begins at a second of the class, or wherever it falls. */
  async pin(step: string, at: number | null): Promise<void> {
    await this.change((now) => ({ pins: pinned(now, step, at) }));
  }

  async hold(): Promise<void> {
    if (!this.found) return;
    this.busy = true;
    const found = await tried(
      ask(
        api.POST('/api/classes/{id}/held', {
          params: { path: { id: this.id } },
          body: { version: this.found.version },
        }),
      ),
    );
    this.busy = false;
    if (found) {
      this.found = found;
      notices.say('Held. What was weighed out is taken from the packs.');
    }
  }

  async remove(): Promise<boolean> {
    const done = await tried(
      ask(api.DELETE('/api/classes/{id}', { params: { path: { id: this.id } } })).then(() => true),
    );
    return done === true;
  }
}

/** The fixed moments with another for one block, or none. */
function pinned(now: ClassShown, step: string, at: number | null = null): ClassRoom['pins'] {
  const others = Object.entries(now.room.pins ?? {}).filter(([pin]) => pin !== step);
  // The schema knows the keys by a pattern, which types cannot say.
  return Object.fromEntries(at === null ? others : [...others, [step, at]]) as never;
}
