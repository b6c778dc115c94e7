import {
  api,
  ask,
  type FilmPreview,
  type Ingredients,
  type Kit,
  type Product,
  type Table,
} from '../../api/client';
import { notices } from '../../parts/notices.svelte';
import { words } from '../../parts/vocabulary.svelte';

/** The state of the Shelf room: the kit, the search in it, the item being written, and a table on its way in. */
export class ShelfState {
  kit = $state.raw<Kit | null>(null);
  failed = $state<string | null>(null);
  sought = $state('');
  role = $state('all');
  draft = $state<Product | null>(null);
  film = $state.raw<FilmPreview | null>(null);
  list = $state.raw<Ingredients | null>(null);
  table = $state.raw<{ file: File; found: Table } | null>(null);
  busy = $state(false);

  get roles(): string[] {
    const all = (this.kit?.items ?? []).map((item) => item.role as string);
    return all.filter((role, place) => all.indexOf(role) === place);
  }

  get items(): Product[] {
    const wanted = this.sought.trim().toLowerCase();
    return (this.kit?.items ?? []).filter(
      (item) =>
        (this.role === 'all' || item.role === this.role) &&
        (!wanted ||
          `${item.name} ${item.id} ${item.role} ${item.texture} ${item.base} ${item.finish ?? ''}`
            .replaceAll('_', ' ')
            .toLowerCase()
            .includes(wanted)),
    );
  }

  get known(): boolean {
    return this.kit?.items.some((item) => item.id === this.draft?.id) ?? false;
  }

  async load() {
    this.failed = null;
    try {
      [this.kit] = await Promise.all([ask(api.GET('/api/kit')), words.load()]);
    } catch (error) {
      this.failed = error instanceof Error ? error.message : String(error);
    }
  }

  write(item: Product | null) {
    this.draft = item && structuredClone($state.snapshot(item) as Product);
    this.list = null;
    void this.look();
  }

  fresh() {
    let number = 1;
    while (this.kit?.items.some((item) => item.id === `item-${number}`)) number += 1;
    this.write({
      id: `item-${number}`,
      role: 'foundation',
      name: '',
      texture: 'liquid',
      base: 'silicone',
      finish: 'satin',
      lab: [62, 11, 17],
      cover: 0.5,
    });
  }

  set(change: Partial<Product>) {
    if (!this.draft) return;
    this.draft = { ...this.draft, ...change };
    void this.look();
  }

  /** What the film of the item being written does; quiet while it is not yet a possible one. */
  async look() {
    const item = this.draft;
    this.film = null;
    if (!item?.lab || item.cover == null) return;
    try {
      const found = await ask(api.POST('/api/kit/film', { body: { ...item, name: item.name || 'item' } }));
      if (this.draft === item) this.film = found;
    } catch {
      this.film = null;
    }
  }

  /** Colour and cover from readings over a black and a white card. */
  async measure(over_black: [number, number, number], over_white: [number, number, number], film_um: number) {
    try {
      const found = await ask(api.POST('/api/kit/drawdown', { body: { over_black, over_white, film_um } }));
      this.set({ lab: found.lab, cover: found.cover });
      notices.say(`Measured: cover ${(found.cover * 100).toFixed(1)} %.`);
    } catch (error) {
      notices.refuse(error);
    }
  }

  async read(text: string) {
    try {
      this.list = await ask(api.POST('/api/kit/ingredients', { body: { text } }));
      this.set({ ingredients: this.list.ingredients, ...(this.list.base ? { base: this.list.base } : {}) });
    } catch (error) {
      notices.refuse(error);
    }
  }

  async keep() {
    const item = this.draft;
    if (!item) return;
    await this.#change(
      ask(api.PUT('/api/kit/items/{name}', { params: { path: { name: item.id } }, body: item })),
      `${item.name} is on the shelf. Plans made from now on may use it.`,
    );
  }

  async remove() {
    const item = this.draft;
    if (!item) return;
    const done = await this.#change(
      ask(api.DELETE('/api/kit/items/{name}', { params: { path: { name: item.id } } })),
      `${item.name} is off the shelf; plans keep the kit they were made with.`,
    );
    if (done) this.draft = null;
  }

  async preview(file: File) {
    this.busy = true;
    try {
      this.table = { file, found: await ask(api.POST('/api/kit/preview', await sent(file))) };
    } catch (error) {
      notices.refuse(error);
    } finally {
      this.busy = false;
    }
  }

  async take() {
    if (!this.table) return;
    this.busy = true;
    try {
      const found = await ask(
        api.POST('/api/kit/table', {
          params: { query: { leave_out: true } },
          ...(await sent(this.table.file)),
        }),
      );
      notices.say(`${found.added} added, ${found.changed} changed, ${found.left_out} left out.`);
      this.table = null;
      await this.load();
    } catch (error) {
      notices.refuse(error);
    } finally {
      this.busy = false;
    }
  }

  async #change(call: Promise<Kit>, says: string): Promise<boolean> {
    this.busy = true;
    try {
      this.kit = await call;
      notices.say(says);
      return true;
    } catch (error) {
      notices.refuse(error);
      return false;
    } finally {
      this.busy = false;
    }
  }
}

async function sent(file: File) {
  return {
    body: (await file.arrayBuffer()) as never,
    bodySerializer: (body: unknown) => body as BodyInit,
    headers: { 'Content-Type': 'text/csv' },
  };
}
