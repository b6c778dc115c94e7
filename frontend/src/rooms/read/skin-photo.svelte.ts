import { api, ask, type Lab, type PlanChanges, type SkinPlace, type SkinPlaceRead } from '../../api/client';
import { CardPictures } from '../../parts/card-pictures.svelte';
import { Latest } from '../../parts/latest';
import { tried } from '../../parts/tried';

/** The order in which places are usually held to the window. */
const USUAL: readonly SkinPlace[] = ['cheek_apple_l', 'jaw_l', 'neck'];
const TWICE = 2;

/** Skin seen through the window of a card: which place each picture shows, one colour a place, and which of them are saved. */
export class SkinPhoto {
  readonly pictures = new CardPictures('skin', () => void this.pool());
  /** The place of each picture, by its number. */
  at = $state<Record<number, SkinPlace>>({});
  places = $state.raw<readonly SkinPlaceRead[]>([]);
  left = $state.raw<readonly string[]>([]);
  changes = $state.raw<PlanChanges | null>(null);
  busy = $state(false);
  #pooled = new Latest();
  #looked = new Latest();
  /** The place whose pictures are taken again. */
  #again: SkinPlace | null = null;

  constructor(
    readonly sitter: string,
    readonly first: SkinPlace,
  ) {}

  /** Pictures whose window says something. */
  get seen() {
    return this.pictures.read.flatMap((each) => {
      const { window, window_crop: crop } = each.found;
      return window ? [{ number: each.number, name: each.file.name, window, crop }] : [];
    });
  }

  get ticked(): readonly SkinPlaceRead[] {
    return this.places.filter((each) => !this.left.includes(each.place));
  }

  /** Where a picture was held: as set, or the place asked for, then those that usually follow. */
  place(number: number): SkinPlace {
    return this.at[number] ?? this.first;
  }

  set(number: number, place: SkinPlace) {
    this.#again = null;
    this.at[number] = place;
    void this.pool();
  }

  /** All the pictures of one place as one colour. */
  async pool() {
    this.#forget();
    this.#pooled.drop();
    for (const { number } of this.seen) this.at[number] ??= this.#next();
    const takes = this.seen.map(({ number, window }) => ({
      place: this.place(number),
      lab: window.lab,
      sd: window.sd,
    }));
    if (!takes.length) {
      this.places = [];
      return;
    }
    const params = { path: { id: this.sitter } };
    const found = await tried(
      this.#pooled.of(ask(api.POST('/api/sitters/{id}/skin-pictures', { params, body: { takes } }))),
    );
    if (!found) return;
    // What only confirms an instrument's reading is not proposed: it would count before it, and is less sure.
    const fresh = found.places.filter((each) => !this.places.some((known) => known.place === each.place));
    this.left = [...this.left, ...fresh.filter((each) => each.confirms).map((each) => each.place)];
    this.places = found.places;
  }

  /** Where the next picture is usually held: the same place until it has two, then the next one down. */
  #next(): SkinPlace {
    const taken = this.seen.flatMap(({ number }) => this.at[number] ?? []);
    const last = taken.at(-1);
    if (!last || this.#again) return this.#again ?? this.first;
    if (taken.filter((each) => each === last).length < TWICE) return last;
    return USUAL.find((place) => !taken.includes(place)) ?? last;
  }

  /** Leave out the pictures of a place that are too far off: the next ones are of that place. */
  again(found: SkinPlaceRead) {
    const own = this.seen.filter(({ number }) => this.place(number) === found.place);
    this.#again = found.place as SkinPlace;
    for (const far of found.far) if (own[far]) this.pictures.leaveOut(own[far].number);
  }

  leave(place: string, out: boolean) {
    const rest = this.left.filter((each) => each !== place);
    this.left = out ? [...rest, place] : rest;
    this.#forget();
  }

  /** What would change was told, or is still asked, of other readings. */
  #forget() {
    this.#looked.drop();
    this.changes = null;
    this.busy = false;
  }

  /** What the readings would change in the sitter's plans; nothing is saved. */
  async look(day: string) {
    this.busy = true;
    const params = { path: { id: this.sitter } };
    const body = { readings: this.readings(day) };
    const found = await tried(
      this.#looked.of(ask(api.POST('/api/sitters/{id}/readings/changes', { params, body }))),
    );
    if (found === undefined) return;
    this.changes = found;
    this.busy = false;
  }

  readings(day: string) {
    return this.ticked.map((each) => ({
      day,
      place: each.place as SkinPlace,
      what: 'colour' as const,
      lab: each.lab as Lab,
      takes: each.takes,
      spread: each.sd,
      source: 'photo' as const,
    }));
  }
}
