import { api, ask, Refusal, type Kit, type Product, type Schemas } from '../../api/client';
import { InTurn } from '../../parts/in-turn';
import { notices } from '../../parts/notices.svelte';
import { Resource } from '../../parts/resource.svelte';
import { words } from '../../parts/vocabulary.svelte';
import { ItemState } from './item.svelte';
import { KitsState } from './kits.svelte';
import { ShelfSearch } from './search.svelte';
import { TableImport } from './table.svelte';
import { ToolsState } from './tools.svelte';

/** What is on the shelf, and its changes: one after another, each answered with the whole of it. */
export class ShelfState {
  kit = $state.raw<Kit | null>(null);
  busy = $state(false);
  readonly kits = new KitsState(this);
  readonly search = new ShelfSearch(this);
  readonly item = new ItemState(this);
  readonly tools = new ToolsState(this);
  readonly table = new TableImport(this);
  #turn = new InTurn();

  readonly opening = new Resource(
    () => Promise.all([ask(api.GET('/api/kit')), ask(api.GET('/api/kit/tools')), words.load()]),
    ([kit, tools]) => {
      [this.kit, this.tools.all] = [kit, tools];
      this.item.pickUp();
    },
  );

  /**
   * Do a change when its turn comes, and take what it answers; whether it was done. Why it was refused is said; where
   * somebody else was first, what stands now is loaded, and `stale` asks what to do.
   */
  async work<T>(
    call: () => Promise<T>,
    take: (found: T) => void,
    says = '',
    stale?: () => void,
  ): Promise<boolean> {
    this.busy = true;
    try {
      take(await this.#turn.run(call));
      if (says) notices.say(says);
      return true;
    } catch (error) {
      await this.#refused(error, stale);
      return false;
    } finally {
      this.busy = false;
    }
  }

  change(call: () => Promise<Kit>, says = '', stale?: () => void): Promise<boolean> {
    return this.work(call, (kit) => (this.kit = kit), says, stale);
  }

  async #refused(error: unknown, stale?: () => void) {
    if (!(error instanceof Refusal && error.stale)) {
      notices.refuse(error);
      return;
    }
    await this.opening.load();
    if (stale) stale();
    else notices.say('Somebody else changed it meanwhile. This is their version: look again.', true);
  }

  /** Put new items beside those there; whether they are. */
  addItems(items: Product[]): Promise<boolean> {
    const [only] = items;
    const says =
      only && items.length === 1
        ? `${only.name} is on the shelf.`
        : `${items.length} items are on the shelf.`;
    return this.change(() => ask(api.POST('/api/kit/items', { body: { items } })), says);
  }

  /** The generic kit for a skin: something to start from, all of it guessed. */
  addGeneric(skin: [number, number, number]): Promise<boolean> {
    return this.change(
      () => ask(api.POST('/api/kit/generic', { body: { skin } })),
      'The generic kit is on the shelf: replace each item by your own as you go.',
    );
  }

  /** Put colours read from a photograph on the shelf, and into the plans named; whether they are. */
  takeMeasured(films: Schemas['FilmBody'][], plans: Schemas['PlanOnBody'][]): Promise<boolean> {
    const says =
      films.length === 1 ? 'One colour is on the shelf' : `${films.length} colours are on the shelf`;
    return this.change(
      () => ask(api.POST('/api/kit/measured', { body: { films, plans } })),
      `${says}${plans.length ? `, and in ${plans.length === 1 ? 'one plan' : `${plans.length} plans`}` : ''}.`,
    );
  }

  async merge(into: string, other: string) {
    await this.change(
      () => ask(api.POST('/api/kit/merge', { body: { into, other } })),
      'They are one item now.',
    );
  }
}
