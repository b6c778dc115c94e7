import { api, ask, type FilmPreview, type Ingredients, type ProductDraft } from '../../api/client';
import { clashes } from '../../parts/clash.svelte';
import { Draft } from '../../parts/draft.svelte';
import { notices } from '../../parts/notices.svelte';
import { tried } from '../../parts/tried';
import type { ShelfState } from './shelf.svelte';

/** The item that is being written: what it would do, and putting it on the shelf. */
export class ItemState {
  draft = $state<ProductDraft | null>(null);
  film = $state.raw<FilmPreview | null>(null);
  list = $state.raw<Ingredients | null>(null);
  /** The version of the item that the draft was begun on; 0 for a new one. */
  #begunOn = 0;
  /** The draft over a reload. */
  #unsent = new Draft('shelf item');

  constructor(private readonly shelf: ShelfState) {}

  get known(): boolean {
    return this.shelf.kit?.items.some((item) => item.id === this.draft?.id) ?? false;
  }

  /** Whether the base of the item on the shelf is only what is usual, and nothing else was said since. */
  get baseGuessed(): boolean {
    const open = this.shelf.kit?.open_facts[this.draft?.id ?? ''] ?? [];
    return open.includes('base') && this.draft?.base_source !== 'pack';
  }

  /** The item that was being written when the page was left, if it was not put on the shelf. */
  pickUp() {
    if (this.draft || !this.#unsent.text) return;
    const stored = JSON.parse(this.#unsent.text) as { item?: ProductDraft; version: number };
    if (!stored.item) return;
    [this.draft, this.#begunOn] = [stored.item, stored.version];
    notices.say(`Picked up where you were: ${this.draft.name || 'a new item'} was not put on the shelf yet.`);
    void this.look();
  }

  write(item: ProductDraft | null) {
    this.draft = item && structuredClone($state.snapshot(item) as ProductDraft);
    this.#begunOn = this.#version(item?.id);
    this.#unsent.text = '';
    this.list = null;
    void this.look();
  }

  fresh() {
    let number = 1;
    while (this.shelf.kit?.items.some((item) => item.id === `item-${number}`)) number += 1;
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

  set(change: Partial<ProductDraft>) {
    if (!this.draft) return;
    this.draft = { ...this.draft, ...change };
    this.#unsent.text = JSON.stringify({ item: this.draft, version: this.#begunOn });
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
    const body = { over_black, over_white, film_um };
    const found = await tried(ask(api.POST('/api/kit/drawdown', { body })));
    if (!found) return;
    this.set({ lab: found.lab, cover: found.cover, source: 'measured', lab_sd: null, cover_sd: null });
    notices.say(`Measured: cover ${(found.cover * 100).toFixed(1)} %.`);
  }

  async read(text: string) {
    const found = await tried(ask(api.POST('/api/kit/ingredients', { body: { text } })));
    if (!found) return;
    this.list = found;
    this.set({
      ingredients: found.ingredients,
      ...(found.base ? { base: found.base, base_source: 'pack' } : {}),
    });
  }

  async save() {
    const item = this.draft;
    if (!item) return;
    const params = { path: { name: item.id }, query: { version: this.#begunOn } };
    const done = await this.shelf.change(
      () => ask(api.PUT('/api/kit/items/{name}', { params, body: item })),
      `${item.name} is on the shelf. Plans made from now on may use it.`,
      () => {
        const theirs = this.shelf.kit?.items.find((each) => each.id === item.id) ?? null;
        clashes.ask({
          name: theirs?.name ?? item.name,
          mine: item,
          theirs,
          save: () => {
            this.#begunOn = this.#version(item.id);
            return this.save();
          },
          take: () => this.write(theirs),
        });
      },
    );
    if (done) {
      this.#unsent.text = '';
      this.#begunOn = this.#version(item.id);
    }
  }

  async remove() {
    const item = this.draft;
    if (!item) return;
    const params = { path: { name: item.id }, query: { version: this.#begunOn } };
    const done = await this.shelf.change(
      () => ask(api.DELETE('/api/kit/items/{name}', { params })),
      `${item.name} is off the shelf; plans keep the kit they were made with.`,
    );
    if (done) this.write(null);
  }

  #version(id = ''): number {
    return this.shelf.kit?.versions[id] ?? 0;
  }
}
