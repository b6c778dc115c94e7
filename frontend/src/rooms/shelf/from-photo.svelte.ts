import { api, ask, type FilmRead, type PlanChanges, type Product } from '../../api/client';
import { CardPictures } from '../../parts/card-pictures.svelte';
import { Latest } from '../../parts/latest';
import { tried } from '../../parts/tried';
import type { ShelfState } from './shelf.svelte';

export const NEW = 'new item';

/** Where one film is to go: onto an item of the shelf, or as a new one; and whether it is taken. */
export interface Row {
  take: boolean;
  item: string;
  name: string;
  role: Product['role'];
}

/** Colours of products from pictures of a card: films, where each goes, and what that changes before anything is saved. */
export class FromPhoto {
  readonly pictures = new CardPictures('kit', () => void this.pool());
  films = $state.raw<readonly FilmRead[]>([]);
  rows = $state<Record<string, Row>>({});
  filmUm = $state<number | null>(null);
  changes = $state.raw<PlanChanges | null>(null);
  /** Plans that take the colours over too. */
  into = $state.raw<readonly string[]>([]);
  busy = $state(false);
  #pooled = new Latest();
  #looked = new Latest();

  constructor(readonly shelf: ShelfState) {}

  get film(): number {
    return this.filmUm ?? this.pictures.samples?.film_um ?? 0;
  }

  /** The films that go onto the shelf. */
  get taken(): readonly FilmRead[] {
    return this.films.filter((each) => this.rows[each.cell]?.take);
  }

  /** Why what is ticked cannot be saved yet; empty where it can. */
  get wanting(): string {
    const taken = this.taken;
    const nameless = taken.find(
      (each) => this.rows[each.cell]!.item === NEW && !this.rows[each.cell]!.name.trim(),
    );
    if (nameless) return `Give the new item of cell ${nameless.cell} a name.`;
    const items = taken.map((each) => this.rows[each.cell]!.item).filter((each) => each !== NEW);
    const twice = items.find((each, place) => items.indexOf(each) !== place);
    return twice ? `Two films cannot both be ${this.named(twice)}.` : '';
  }

  named(id: string): string {
    return this.shelf.kit?.items.find((each) => each.id === id)?.name ?? id;
  }

  /** The pictures as one, with the thickness as it is set; rows that were set stay as they are. */
  async pool() {
    this.#forget();
    this.#pooled.drop();
    const pictures = this.pictures.read.map((each) => ({
      cells: each.found.cells.flatMap((cell) =>
        cell.over_white && cell.over_black
          ? [{ id: cell.id, over_white: bare(cell.over_white), over_black: bare(cell.over_black) }]
          : [],
      ),
    }));
    if (!pictures.length) {
      this.films = [];
      return;
    }
    const body = { pictures, ...(this.filmUm === null ? {} : { film_um: this.filmUm }) };
    const found = await tried(this.#pooled.of(ask(api.POST('/api/card/pooled', { body }))));
    if (!found) return;
    for (const film of found.films) this.rows[film.cell] ??= this.#first(film);
    this.films = found.films;
  }

  /** What is proposed: the likely item, taken where the film says more than what the shelf has. */
  #first(film: FilmRead): Row {
    const near = film.against.find((each) => each.item === film.likely);
    return {
      take: near ? near.far || near.surer : false,
      item: film.likely ?? NEW,
      name: '',
      role: 'foundation',
    };
  }

  against(film: FilmRead) {
    return film.against.find((each) => each.item === this.rows[film.cell]?.item);
  }

  set(cell: string, change: Partial<Row>) {
    this.rows[cell] = { ...this.rows[cell]!, ...change };
    this.#forget();
  }

  /** What would change was told, or is still asked, of other rows. */
  #forget() {
    this.#looked.drop();
    this.changes = null;
    this.busy = false;
  }

  get #films() {
    return this.taken.map((film) => {
      const { item, name, role } = this.rows[film.cell]!;
      const known = item !== NEW;
      return {
        name: known ? this.named(item) : name.trim(),
        role,
        lab: film.lab,
        lab_sd: film.lab_sd,
        cover: film.cover,
        cover_sd: film.cover_sd,
        ...(known ? { item, version: this.shelf.kit?.versions[item] ?? 0 } : {}),
      };
    });
  }

  async look() {
    this.busy = true;
    const body = { films: this.#films };
    const found = await tried(this.#looked.of(ask(api.POST('/api/kit/measured/preview', { body }))));
    if (found === undefined) return;
    this.changes = found;
    this.into = [];
    this.busy = false;
  }

  /** Put it on the shelf, and into the plans that were chosen; whether it is. */
  async save(): Promise<boolean> {
    const plans = (this.changes?.plans ?? [])
      .filter((each) => this.into.includes(each.id))
      .map(({ id, revision }) => ({ id, revision }));
    return this.shelf.takeMeasured(this.#films, plans);
  }
}

function bare({ lab, sd }: { lab: number[]; sd: number }) {
  return { lab, sd };
}
