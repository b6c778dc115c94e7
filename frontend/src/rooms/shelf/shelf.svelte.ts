import {
  api,
  ask,
  Refusal,
  type FilmPreview,
  type Ingredients,
  type Kit,
  type NamedKit,
  type OwnedTool,
  type Product,
  type ProductDraft,
  type Schemas,
  type Table,
  type Tools,
} from '../../api/client';
import { clashes } from '../../parts/clash.svelte';
import { Draft } from '../../parts/draft.svelte';
import { InTurn } from '../../parts/in-turn';
import { notices } from '../../parts/notices.svelte';
import { sent } from '../../parts/sending';
import { today } from '../../parts/today';
import { tried } from '../../parts/tried';
import { words } from '../../parts/vocabulary.svelte';
import { Resource } from '../../parts/resource.svelte';

const DEPTHS = ['very light', 'light', 'intermediate', 'tan', 'brown', 'dark'];

/** The state of the Shelf room: the kit, the search in it, the item being written, and a table on its way in. */
export class ShelfState {
  kit = $state.raw<Kit | null>(null);
  sought = $state('');
  role = $state('all');
  texture = $state('all');
  base = $state('all');
  depth = $state('all');
  /** The named kit that is looked at; empty for the whole shelf. */
  kitId = $state('');
  onlyKit = $state(true);
  tools = $state.raw<Tools | null>(null);
  draft = $state<ProductDraft | null>(null);
  /** The version of the item that the draft was begun on; 0 for a new one. */
  #begunOn = 0;
  #turn = new InTurn();
  /** The item being written, over a reload. */
  #unsent = new Draft('shelf item');
  film = $state.raw<FilmPreview | null>(null);
  list = $state.raw<Ingredients | null>(null);
  table = $state.raw<{ file: File; found: Table } | null>(null);
  busy = $state(false);

  /** What the items have in one field, each once, in shelf order. */
  found(field: 'role' | 'texture' | 'base'): string[] {
    const all = (this.kit?.items ?? []).map((item) => item[field] as string);
    return all.filter((each, place) => all.indexOf(each) === place);
  }

  get depths(): string[] {
    const all = Object.values(this.kit?.depths ?? {});
    return DEPTHS.filter((each) => all.includes(each as never));
  }

  get named(): NamedKit | undefined {
    return this.kit?.kits.find((each) => each.id === this.kitId);
  }

  inKit(item: Product): boolean {
    return this.named?.items?.includes(item.id) ?? false;
  }

  get items(): Product[] {
    const wanted = this.sought.trim().toLowerCase();
    const fits = (chosen: string, own: string | undefined) => chosen === 'all' || own === chosen;
    return (this.kit?.items ?? []).filter(
      (item) =>
        fits(this.role, item.role) &&
        fits(this.texture, item.texture) &&
        fits(this.base, item.base) &&
        fits(this.depth, this.kit?.depths[item.id]) &&
        (!this.named || !this.onlyKit || this.inKit(item)) &&
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

  readonly opening = new Resource(
    () => Promise.all([ask(api.GET('/api/kit')), ask(api.GET('/api/kit/tools')), words.load()]),
    ([kit, tools]) => {
      [this.kit, this.tools] = [kit, tools];
      this.#pickUp();
    },
  );

  /** The item that was being written when the page was left, if it was not put on the shelf. */
  #pickUp() {
    if (this.draft || !this.#unsent.text) return;
    const stored = JSON.parse(this.#unsent.text) as { item?: ProductDraft; version: number };
    if (!stored.item) return;
    [this.draft, this.#begunOn] = [stored.item, stored.version];
    notices.say(`Picked up where you were: ${this.draft.name || 'a new item'} was not put on the shelf yet.`);
    void this.look();
  }

  write(item: ProductDraft | null) {
    this.draft = item && structuredClone($state.snapshot(item) as ProductDraft);
    this.#begunOn = this.kit?.versions[item?.id ?? ''] ?? 0;
    this.#unsent.text = '';
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
    this.set({ ingredients: found.ingredients, ...(found.base ? { base: found.base } : {}) });
  }

  async save() {
    const item = this.draft;
    if (!item) return;
    const params = { path: { name: item.id }, query: { version: this.#begunOn } };
    const done = await this.#change(
      () => ask(api.PUT('/api/kit/items/{name}', { params, body: item })),
      `${item.name} is on the shelf. Plans made from now on may use it.`,
      () => {
        const theirs = this.kit?.items.find((each) => each.id === item.id) ?? null;
        clashes.ask({
          name: theirs?.name ?? item.name,
          mine: item,
          theirs,
          save: () => {
            this.#begunOn = this.kit?.versions[item.id] ?? 0;
            return this.save();
          },
          take: () => this.write(theirs),
        });
      },
    );
    if (done) {
      this.#unsent.text = '';
      this.#begunOn = this.kit?.versions[item.id] ?? 0;
    }
  }

  async remove() {
    const item = this.draft;
    if (!item) return;
    const done = await this.#change(
      () =>
        ask(
          api.DELETE('/api/kit/items/{name}', {
            params: { path: { name: item.id }, query: { version: this.#begunOn } },
          }),
        ),
      `${item.name} is off the shelf; plans keep the kit they were made with.`,
    );
    if (done) this.write(null);
  }

  /** Put new items beside those there; whether they are. */
  async addItems(items: Product[]): Promise<boolean> {
    const [only] = items;
    const says =
      only && items.length === 1
        ? `${only.name} is on the shelf.`
        : `${items.length} items are on the shelf.`;
    return this.#change(() => ask(api.POST('/api/kit/items', { body: { items } })), says);
  }

  /** The generic kit for a skin: something to start from, all of it guessed. */
  async addGeneric(skin: [number, number, number]): Promise<boolean> {
    return this.#change(
      () => ask(api.POST('/api/kit/generic', { body: { skin } })),
      'The generic kit is on the shelf: replace each item by your own as you go.',
    );
  }

  /** Put colours read from a photograph on the shelf, and into the plans named; whether they are. */
  async takeMeasured(films: Schemas['FilmBody'][], plans: Schemas['PlanOnBody'][]): Promise<boolean> {
    const says =
      films.length === 1 ? 'One colour is on the shelf' : `${films.length} colours are on the shelf`;
    return this.#change(
      () => ask(api.POST('/api/kit/measured', { body: { films, plans } })),
      `${says}${plans.length ? `, and in ${plans.length === 1 ? 'one plan' : `${plans.length} plans`}` : ''}.`,
    );
  }

  async merge(into: string, other: string) {
    await this.#change(
      () => ask(api.POST('/api/kit/merge', { body: { into, other } })),
      'They are one item now.',
    );
  }

  async newKit(name: string) {
    let number = 1;
    while (this.kit?.kits.some((each) => each.id === `kit-${number}`)) number += 1;
    const id = `kit-${number}`;
    if (await this.#putKit(() => ({ id, name, items: [] }), `${name} is created: tick what belongs in it.`)) {
      this.kitId = id;
      this.onlyKit = false;
    }
  }

  async putIn(item: Product, on: boolean) {
    const id = this.kitId;
    await this.#putKit(() => {
      // As it stands when its turn comes: boxes ticked one after another all count.
      const kit = this.kit?.kits.find((each) => each.id === id);
      const rest = (kit?.items ?? []).filter((each) => each !== item.id);
      return kit && { ...kit, items: on ? [...rest, item.id] : rest };
    });
  }

  async takeApart() {
    const kit = this.named;
    if (!kit) return;
    const done = await this.#change(
      () =>
        ask(
          api.DELETE('/api/kit/kits/{name}', {
            params: { path: { name: kit.id }, query: { version: this.kit?.kit_versions[kit.id] } },
          }),
        ),
      `${kit.name} is deleted; its items stay on the shelf.`,
    );
    if (done) this.kitId = '';
  }

  /** Keep a named kit as it is to be when its turn comes. */
  async #putKit(made: () => NamedKit | undefined, says = ''): Promise<boolean> {
    let kit: NamedKit | undefined;
    return this.#change(
      async () => {
        kit = made();
        if (!kit || !this.kit) throw new Refusal('This kit is not there any more.', 404);
        const query = { version: this.kit.kit_versions[kit.id] ?? 0 };
        return ask(api.PUT('/api/kit/kits/{name}', { params: { path: { name: kit.id }, query }, body: kit }));
      },
      says,
      () => {
        const mine = kit;
        if (!mine) return;
        const theirs = this.kit?.kits.find((each) => each.id === mine.id) ?? null;
        clashes.ask({
          name: theirs?.name ?? mine.name,
          mine: this.#withNames(mine),
          theirs: theirs && this.#withNames(theirs),
          save: () => this.#putKit(() => mine, says),
          take: () => undefined,
        });
      },
    );
  }

  #withNames(kit: NamedKit): object {
    const name = (id: string) => this.kit?.items.find((each) => each.id === id)?.name ?? id;
    return { ...kit, items: (kit.items ?? []).map(name) };
  }

  async saveTool(tool: OwnedTool) {
    const found = (id: string) => this.tools?.tools.find((each) => each.tool.id === id);
    await this.#tool(
      () => {
        const query = { version: found(tool.id)?.version ?? 0 };
        return ask(
          api.PUT('/api/kit/tools/{name}', { params: { path: { name: tool.id }, query }, body: tool }),
        );
      },
      () => {
        const theirs = found(tool.id)?.tool ?? null;
        clashes.ask({
          name: tool.name || words.tool(tool.kind),
          mine: tool,
          theirs,
          save: () => this.saveTool(tool),
          take: () => undefined,
        });
      },
    );
  }

  async newTool(kind: OwnedTool['kind'], name: string) {
    let number = 1;
    while (this.tools?.tools.some((each) => each.tool.id === `tool-${number}`)) number += 1;
    await this.saveTool({ id: `tool-${number}`, kind, name, state: 'clean', since: today() });
  }

  async removeTool(id: string) {
    await this.#tool(() => {
      const query = { version: this.tools?.tools.find((each) => each.tool.id === id)?.version };
      return ask(api.DELETE('/api/kit/tools/{name}', { params: { path: { name: id }, query } }));
    });
  }

  async #tool(call: () => Promise<Tools>, stale?: () => void) {
    this.busy = true;
    try {
      this.tools = await this.#turn.run(call);
    } catch (error) {
      await this.#refused(error, stale);
    } finally {
      this.busy = false;
    }
  }

  /** Say why a change was refused; where somebody else changed it meanwhile, look at what stands now and ask. */
  async #refused(error: unknown, stale?: () => void) {
    if (!(error instanceof Refusal && error.stale)) {
      notices.refuse(error);
      return;
    }
    await this.opening.load();
    if (stale) stale();
    else notices.say('Somebody else changed it meanwhile. This is their version: look again.', true);
  }

  async preview(file: File) {
    this.busy = true;
    const found = await tried(sent(file, 'text/csv').then((body) => ask(api.POST('/api/kit/preview', body))));
    if (found) this.table = { file, found };
    this.busy = false;
  }

  async take() {
    if (!this.table) return;
    this.busy = true;
    const found = await tried(
      sent(this.table.file, 'text/csv').then((body) =>
        ask(api.POST('/api/kit/table', { params: { query: { leave_out: true } }, ...body })),
      ),
    );
    if (found) {
      notices.say(`${found.added} added, ${found.changed} changed, ${found.left_out} left out.`);
      this.table = null;
      await this.opening.load();
    }
    this.busy = false;
  }

  async #change(call: () => Promise<Kit>, says: string, stale?: () => void): Promise<boolean> {
    this.busy = true;
    try {
      this.kit = await this.#turn.run(call);
      if (says) notices.say(says);
      return true;
    } catch (error) {
      await this.#refused(error, stale);
      return false;
    } finally {
      this.busy = false;
    }
  }
}
