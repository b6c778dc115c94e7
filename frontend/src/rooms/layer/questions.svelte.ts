import { words } from '../../parts/vocabulary.svelte';
import {
  api,
  ask,
  type Kind,
  type Light,
  type Mix,
  type Offered,
  type Place,
  type Well,
  type Zone,
} from '../../api/client';
import { Latest } from '../../parts/latest';
import { tried } from '../../parts/tried';
import { Resource } from '../../parts/resource.svelte';

/** The corrector question: one zone at a time, answered by the core. */
export class CorrectorState {
  zone = $state<Zone | null>(null);
  readonly asking = new Resource(() => {
    if (this.zone === null) throw new Error('no zone is asked about');
    const params = { path: { id: this.planId, zone: this.zone } };
    return ask(api.GET('/api/sequences/{id}/corrector/{zone}', { params }));
  });

  constructor(readonly planId: string) {}

  about(zone: Zone) {
    this.zone = zone;
    void this.asking.load();
  }
}

/** The mixing well: recipes from the core, and drops taken by hand. */
export class WellState {
  drops = $state<Record<string, number>>({});
  result = $state.raw<Well | null>(null);
  light = $state<Light>('daylight');
  mostDrops = $state(8);
  faces = $state(1);
  /** The foundation the mix stands in for; null mixes towards the complexion. */
  replaces = $state<string | null>(null);
  readonly seeking = new Resource(() =>
    ask(
      api.GET('/api/sequences/{id}/mix', {
        params: {
          path: { id: this.planId },
          query: { drops: this.mostDrops, ...(this.replaces ? { replaces: this.replaces } : {}) },
        },
      }),
    ),
  );
  #seen = new Latest();

  constructor(readonly planId: string) {}

  name(id: string): string {
    return this.recipes?.products.find((product) => product.id === id)?.name ?? id;
  }

  get recipes(): Mix | null {
    return this.seeking.value;
  }

  async open() {
    if ((await this.seeking.load()) && this.recipes && !Object.keys(this.drops).length)
      await this.pour(this.recipes.mix.best);
  }

  async pour(recipe: Mix['mix']['best']) {
    this.drops = Object.fromEntries(recipe.parts.map((part) => [part.product, part.drops]));
    await this.look();
  }

  async drop(product: string, by: number) {
    const next = Math.max(0, Math.min(99, (this.drops[product] ?? 0) + by));
    const rest = Object.entries(this.drops).filter(([id]) => id !== product);
    this.drops = Object.fromEntries(next > 0 || by > 0 ? [...rest, [product, next]] : rest);
    await this.look();
  }

  async towards(replaces: string | null) {
    this.replaces = replaces;
    this.drops = {};
    await this.open();
  }

  async portions(faces: number) {
    this.faces = Math.max(1, Math.min(words.limit('faces').high, Math.round(faces) || 1));
    await this.look();
  }

  async see(light: Light) {
    this.light = light;
    await this.look();
  }

  async look() {
    const parts = Object.entries(this.drops).map(([product, drops]) => ({ product, drops }));
    if (!parts.length) {
      this.#seen.drop();
      this.result = null;
      return;
    }
    const found = await tried(
      this.#seen.of(
        ask(
          api.POST('/api/sequences/{id}/well', {
            params: { path: { id: this.planId }, query: { light: this.light } },
            body: { parts, faces: this.faces, ...(this.replaces ? { replaces: this.replaces } : {}) },
          }),
        ),
      ),
    );
    if (!found) return;
    this.result = found;
  }
}

/** A step to add: chosen from the palette, and the places it could go with what each costs. */
export class AddState {
  /** What this face and the kit allow. */
  readonly palette = new Resource(() =>
    ask(api.GET('/api/sequences/{id}/palette', { params: { path: { id: this.planId } } })),
  );
  kind = $state<Kind | null>(null);
  zones = $state<Zone[]>([]);
  product = $state<string | null>(null);
  places = $state.raw<Place[] | null>(null);
  busy = $state(false);
  #asked = new Latest();

  constructor(readonly planId: string) {}

  get offered(): Offered[] | null {
    return this.palette.value?.offered ?? null;
  }

  get chosen(): Offered | null {
    return this.offered?.find((each) => each.kind === this.kind) ?? null;
  }

  async open() {
    this.places = null;
    await this.palette.load();
  }

  choose(kind: Kind) {
    this.kind = kind;
    this.zones = [...(this.chosen?.zones ?? [])];
    this.product = this.chosen?.products[0]?.id ?? null;
    void this.ask();
  }

  take(product: string) {
    this.product = product;
    void this.ask();
  }

  toggle(zone: Zone) {
    this.zones = this.zones.includes(zone)
      ? this.zones.filter((each) => each !== zone)
      : [...this.zones, zone];
    this.#forget();
  }

  async ask() {
    const { kind, zones, product } = this;
    this.#forget();
    if (!kind || (!zones.length && kind !== 'light_check')) return;
    this.busy = true;
    const params = { path: { id: this.planId } };
    const body = { kind, zones, product };
    const found = await tried(this.#asked.of(ask(api.POST('/api/sequences/{id}/late', { params, body }))));
    if (found === undefined) return;
    this.places = found?.places ?? null;
    this.busy = false;
  }

  /** What was found, or is still asked, is of another step by now. */
  #forget() {
    this.#asked.drop();
    this.places = null;
    this.busy = false;
  }
}
