import { api, ask, Refusal, type NamedKit, type Product } from '../../api/client';
import { clashes } from '../../parts/clash.svelte';
import type { ShelfState } from './shelf.svelte';

/** The named kits: parts of the shelf that are taken along. */
export class KitsState {
  /** The kit that is looked at; empty for the whole shelf. */
  id = $state('');
  /** Whether only what belongs in it is shown. */
  only = $state(true);

  constructor(private readonly shelf: ShelfState) {}

  get named(): NamedKit | undefined {
    return this.#kit(this.id);
  }

  holds(item: Product): boolean {
    return this.named?.items?.includes(item.id) ?? false;
  }

  async begin(name: string) {
    let number = 1;
    while (this.#kit(`kit-${number}`)) number += 1;
    const id = `kit-${number}`;
    if (await this.#put(() => ({ id, name, items: [] }), `${name} is created: tick what belongs in it.`)) {
      this.id = id;
      this.only = false;
    }
  }

  async putIn(item: Product, on: boolean) {
    const { id } = this;
    await this.#put(() => {
      // As it stands when its turn comes: boxes ticked one after another all count.
      const kit = this.#kit(id);
      const rest = (kit?.items ?? []).filter((each) => each !== item.id);
      return kit && { ...kit, items: on ? [...rest, item.id] : rest };
    });
  }

  async takeApart() {
    const kit = this.named;
    if (!kit) return;
    const query = { version: this.shelf.kit?.kit_versions[kit.id] };
    const done = await this.shelf.change(
      () => ask(api.DELETE('/api/kit/kits/{name}', { params: { path: { name: kit.id }, query } })),
      `${kit.name} is deleted; its items stay on the shelf.`,
    );
    if (done) this.id = '';
  }

  /** Keep a kit as it is to be when its turn comes. */
  async #put(made: () => NamedKit | undefined, says = ''): Promise<boolean> {
    let kit: NamedKit | undefined;
    return this.shelf.change(
      async () => {
        kit = made();
        if (!kit || !this.shelf.kit) throw new Refusal('This kit is not there any more.', 404);
        const query = { version: this.shelf.kit.kit_versions[kit.id] ?? 0 };
        return ask(api.PUT('/api/kit/kits/{name}', { params: { path: { name: kit.id }, query }, body: kit }));
      },
      says,
      () => {
        const mine = kit;
        if (!mine) return;
        const theirs = this.#kit(mine.id) ?? null;
        clashes.ask({
          name: theirs?.name ?? mine.name,
          mine: this.#withNames(mine),
          theirs: theirs && this.#withNames(theirs),
          save: () => this.#put(() => mine, says),
          take: () => undefined,
        });
      },
    );
  }

  #kit(id: string): NamedKit | undefined {
    return this.shelf.kit?.kits.find((kit) => kit.id === id);
  }

  #withNames(kit: NamedKit): object {
    const name = (id: string) => this.shelf.kit?.items.find((each) => each.id === id)?.name ?? id;
    return { ...kit, items: (kit.items ?? []).map(name) };
  }
}
