import {
  api,
  ask,
  type Condition,
  type Face,
  type Intent,
  type Lab,
  type SkinPlace,
  type Preset,
  Refusal,
  type Schemas,
  type SitterRecord,
  type Zone,
} from '../../api/client';
import { notices } from '../../parts/notices.svelte';
import { sent } from '../../parts/sending';
import { today } from '../../parts/today';
import { words } from '../../parts/vocabulary.svelte';
import { Resource } from '../../parts/resource.svelte';

interface Standing {
  record: SitterRecord;
  intent: Intent;
}

/** A zone of which nothing was read. */
const UNREAD: Schemas['ZoneSkin'] = { conditions: {}, lab: null, lab_sd: null, source: null };

/** What the brush does: lays a condition with a severity, or takes everything read on a zone away. */
export interface Brush {
  condition: Condition;
  severity: number;
  erase: boolean;
}

/** The other side's zone, or the zone itself where it has no side. */
export function otherSide(zone: Zone): Zone {
  if (zone.endsWith('_l')) return `${zone.slice(0, -2)}_r` as Zone;
  return zone.endsWith('_r') ? (`${zone.slice(0, -2)}_l` as Zone) : zone;
}

/** The state of the Read room: the face as it was read, changes to its record, and what can be taken back. */
export class ReadState {
  face = $state.raw<Face | null>(null);
  brush = $state<Brush>({ condition: 'oily', severity: 2, erase: false });
  bothSides = $state(false);
  /** Zones painted in the stroke that is under way. */
  painted = $state.raw<readonly Zone[]>([]);
  /** Set where the record was changed elsewhere: what was to be kept. */
  stale = $state.raw<Standing | null>(null);
  saving = $state(0);
  past = $state.raw<readonly Standing[]>([]);
  future = $state.raw<readonly Standing[]>([]);
  #queue: Promise<void> = Promise.resolve();

  readonly opening = new Resource(
    () =>
      Promise.all([
        ask(api.GET('/api/sitters/{id}/face', { params: { path: { id: this.id } } })),
        words.load(),
      ]),
    ([face]) => ([this.face, this.stale] = [face, null]),
  );

  constructor(readonly id: string) {}

  get #standing(): Standing | null {
    return this.face && { record: this.face.record, intent: this.face.intent };
  }

  /** Change the record or the wishes; what stood can be brought back. */
  change(next: Partial<Standing>) {
    const before = this.#standing;
    if (!before || !this.face) return;
    this.past = [...this.past, before];
    this.future = [];
    this.#save({ ...before, ...next });
  }

  set(fields: Partial<SitterRecord>) {
    if (this.face) this.change({ record: { ...this.face.record, ...fields } });
  }

  wish(fields: Partial<Intent>) {
    if (this.face) this.change({ intent: { ...this.face.intent, ...fields } });
  }

  undo() {
    this.#walk('past', 'future');
  }

  redo() {
    this.#walk('future', 'past');
  }

  #walk(from: 'past' | 'future', to: 'past' | 'future') {
    const [now, next] = [this.#standing, this[from].at(-1)];
    if (!now || !next) return;
    this[from] = this[from].slice(0, -1);
    this[to] = [...this[to], now];
    this.#save(next);
  }

  /** Show a change at once and keep it; changes are kept one after the other. */
  #save(next: Standing) {
    if (!this.face) return;
    this.face = { ...this.face, ...next };
    this.saving += 1;
    this.#queue = this.#queue.then(async () => {
      try {
        const version = this.face?.version ?? 0;
        const face = await ask(
          api.PUT('/api/sitters/{id}/face', {
            params: { path: { id: this.id } },
            body: { version, ...next },
          }),
        );
        // Later changes that still wait are shown already: their record stays, the version moves on.
        this.face =
          this.saving > 1 ? { ...face, record: this.face!.record, intent: this.face!.intent } : face;
      } catch (error) {
        if (error instanceof Refusal && error.stale) this.stale = next;
        else {
          notices.refuse(error);
          await this.opening.load();
        }
      } finally {
        this.saving -= 1;
      }
    });
  }

  /** The record was changed elsewhere: keep what was made here, on top of what stands. */
  async saveMine() {
    const mine = this.stale;
    await this.opening.load();
    if (mine) this.change(mine);
  }

  /** Severity of a condition on a zone as it counts, preset included. */
  severity(zone: Zone, condition: Condition): number {
    const own = this.face?.record.zones?.[zone]?.conditions?.[condition];
    return own ?? this.#preset(zone)[condition] ?? 0;
  }

  /** Everything read on a zone, preset included. */
  conditions(zone: Zone): Partial<Record<Condition, number>> {
    const all = { ...this.#preset(zone), ...this.face?.record.zones?.[zone]?.conditions };
    return Object.fromEntries(Object.entries(all).filter(([, severity]) => severity > 0));
  }

  #preset(zone: Zone): Partial<Record<Condition, number>> {
    const preset = words.all?.presets.find((each) => each.id === this.face?.record.preset);
    return (preset?.zones[zone] ?? {}) as Partial<Record<Condition, number>>;
  }

  #zones(zones: readonly Zone[]): Zone[] {
    const all = this.bothSides ? zones.flatMap((zone) => [zone, otherSide(zone)]) : zones;
    return all.filter((zone, place) => all.indexOf(zone) === place);
  }

  /** Add a zone to the stroke that is under way. */
  touch(zone: Zone) {
    this.painted = this.#zones([...this.painted, zone]);
  }

  /** End the stroke: one change, however many zones it crossed. */
  lift() {
    const zones = this.painted;
    this.painted = [];
    if (zones.length) this.paint(zones);
  }

  paint(zones: readonly Zone[]) {
    const { condition, severity, erase } = this.brush;
    this.#read(this.#zones(zones), (zone) =>
      erase
        ? Object.fromEntries(Object.keys(this.conditions(zone)).map((each) => [each, 0]))
        : { [condition]: severity },
    );
  }

  /** Copy one side onto the other, conditions and measured colours. */
  mirror(from: 'l' | 'r') {
    if (!this.face) return;
    const zones = { ...this.face.record.zones };
    for (const info of words.all?.zones ?? []) {
      if (info.side !== from) continue;
      const other = otherSide(info.id);
      const erased = Object.fromEntries(Object.keys(this.conditions(other)).map((each) => [each, 0]));
      zones[other] = { ...(zones[other] ?? UNREAD), conditions: { ...erased, ...this.conditions(info.id) } };
    }
    this.set({ zones });
  }

  #read(zones: readonly Zone[], what: (zone: Zone) => Record<string, number>) {
    if (!this.face) return;
    const next = { ...this.face.record.zones };
    for (const zone of zones) {
      const own = next[zone] ?? UNREAD;
      const preset = this.#preset(zone);
      const all: Record<string, number> = { ...own.conditions, ...what(zone) };
      // A nought is kept only where it takes away what the preset sets.
      const stored = Object.entries(all).filter(
        ([condition, severity]) => severity > 0 || preset[condition as Condition],
      );
      next[zone] = { ...own, conditions: Object.fromEntries(stored) };
    }
    this.set({ zones: next });
  }

  choosePreset(preset: Preset) {
    this.set({ preset });
  }

  /** Move a stroke by so many mm from where the measures put it; nought puts it back. */
  move(stroke: string, mm: [number, number]) {
    if (!this.face) return;
    const moved = { ...this.face.record.moved };
    if (mm[0] === 0 && mm[1] === 0) delete moved[stroke];
    else moved[stroke] = mm;
    this.set({ moved });
  }

  /** A typed colour as it is understood, or null where it was refused. */
  async understand(text: string): Promise<{ lab: number[]; hex: string } | null> {
    try {
      return await ask(api.POST('/api/colour', { body: { text } }));
    } catch (error) {
      notices.refuse(error);
      return null;
    }
  }

  /** Keep a colour of a place as read today. */
  async saveColour(
    place: SkinPlace,
    lab: Lab,
    source: 'typed' | 'reader' | 'eye' | 'stripe',
    takes = 1,
    spread: number | null = null,
  ) {
    await this.#readings([{ day: today(), place, what: 'colour', lab, takes, spread, source }]);
  }

  /** Keep readings from pictures; whether they are. */
  async saveReadings(readings: object[]): Promise<boolean> {
    return this.#readings(readings);
  }

  async pinProbe(zone: Zone, what: 'oil' | 'moisture', value: number) {
    await this.#readings([{ day: today(), place: zone, what, value, source: 'probe' }]);
  }

  async #readings(readings: object[]): Promise<boolean> {
    return this.#answer(
      api.POST('/api/sitters/{id}/readings', {
        params: { path: { id: this.id } },
        body: { readings: readings as never },
      }),
      'Kept; the newest reading of a place counts.',
    );
  }

  async removeReading(reading: number) {
    await this.#answer(
      api.DELETE('/api/sitters/{id}/readings/{reading}', { params: { path: { id: this.id, reading } } }),
      'Taken out.',
    );
  }

  /** Keep a file of readings that was looked at. */
  async takeReadings(file: File) {
    await this.#answer(
      api.POST('/api/sitters/{id}/readings/table', {
        params: { path: { id: this.id }, query: { leave_out: true } },
        ...(await sent(file, 'text/csv')),
      }),
      `${file.name} is in.`,
    );
  }

  async #answer(
    call: Promise<{ data?: Face; error?: unknown; response: Response }>,
    says: string,
  ): Promise<boolean> {
    await this.#queue;
    try {
      this.face = await ask(call);
      // What readings changed is not walked back by undo: they are dated and kept.
      this.past = [];
      this.future = [];
      notices.say(says);
      return true;
    } catch (error) {
      notices.refuse(error);
      return false;
    }
  }
}
