import { api, ask, type Lab, type Schemas, type Zone } from '../../api/client';
import { Draft } from '../../parts/draft.svelte';
import { inHand } from '../../parts/in-hand.svelte';
import { InTurn } from '../../parts/in-turn';
import { sent } from '../../parts/sending';
import { tried } from '../../parts/tried';
import { words } from '../../parts/vocabulary.svelte';
import { Resource } from '../../parts/resource.svelte';

export type Sign = Schemas['SignInfo']['id'];
export type Look = Schemas['LookInput'];
type Painted = Partial<Record<Zone, Partial<Record<Sign, number>>>>;

/** One base as it is worn: its record, and the look that is being painted. */
export class WornState {
  record = $state.raw<Schemas['WearWire'] | null>(null);
  busy = $state(false);
  /** The look in hand: when, in which light, what is seen where, and in words. */
  minutes = $state(25);
  light = $state<string>('daylight');
  painted = $state.raw<Painted>({});
  seen = $state.raw<Zone[]>([]);
  note = $state('');
  nextTime = $state('');
  colours = $state.raw<Look['colours']>({});
  /** What the brush paints. */
  sign = $state<Sign>('shine');
  grade = $state(1);
  /** The zones of the stroke that is not lifted yet. */
  #stroke = $state.raw<Zone[]>([]);

  /** The look in hand over a reload, until it is saved. */
  readonly #draft: Draft;
  readonly #turns = new InTurn();

  constructor(readonly id: string) {
    this.#draft = new Draft(`look ${id}`);
  }

  readonly touched = $derived(
    this.seen.length > 0 || Boolean(this.note || this.nextTime) || Object.keys(this.colours ?? {}).length > 0,
  );

  readonly opening = new Resource(
    async () => {
      await words.load();
      return ask(api.GET('/api/wears/{id}', { params: { path: { id: this.id } } }));
    },
    (found) => {
      this.#take(found);
      this.minutes = this.#due();
      this.#restore();
    },
  );

  #take(record: Schemas['WearWire']) {
    this.record = record;
    inHand.takePlan(
      { id: record.sitter_id, name: record.nickname },
      { id: record.plan_id, name: record.title },
    );
  }

  /** Minutes since it was put on, where that was within a day; else the second look's time, or an hour after the last look. */
  #due(): number {
    const since = Math.round((Date.now() - Date.parse(this.record!.worn.from)) / 60000);
    const last = this.record!.looks.at(-1);
    return since >= 0 && since <= 24 * 60 ? since : last ? last.after_min + 60 : 25;
  }

  /** How plainly the brush's sign is painted on a zone. */
  shown(zone: Zone): number {
    if (this.#stroke.includes(zone)) return this.grade;
    return this.painted[zone]?.[this.sign] ?? 0;
  }

  told(zone: Zone): string {
    const own = Object.entries(this.painted[zone] ?? {}).filter(([, grade]) => grade);
    const said = own.map(([sign, grade]) => `${words.sign(sign)} ${grade}`).join(', ');
    return `${words.zone(zone)}: ${said || (this.seen.includes(zone) ? 'nothing to see' : 'not looked at')}`;
  }

  touch(zone: Zone) {
    if (this.workable(zone) && !this.#stroke.includes(zone)) this.#stroke = [...this.#stroke, zone];
  }

  lift() {
    this.paint(this.#stroke);
    this.#stroke = [];
  }

  workable(zone: Zone): boolean {
    return this.record?.zones.includes(zone) ?? false;
  }

  paint(zones: readonly Zone[]) {
    const painted = { ...this.painted };
    for (const zone of zones.filter((each) => this.workable(each)))
      painted[zone] = { ...painted[zone], [this.sign]: this.grade };
    this.painted = painted;
    this.#see(zones);
  }

  /** The zones of a part of the face on which the plan does something. */
  zonesOf(region: string): Zone[] {
    return (words.all?.zones ?? [])
      .filter((each) => each.region === region && this.workable(each.id))
      .map((each) => each.id);
  }

  looked(region: string): boolean {
    return this.zonesOf(region).every((zone) => this.seen.includes(zone));
  }

  /** Looked at all of a part: where nothing is painted, nothing was to see. Again, and it was not looked at. */
  look(region: string) {
    const own = this.zonesOf(region);
    const bare = own.filter((zone) => !Object.values(this.painted[zone] ?? {}).some(Boolean));
    if (this.looked(region)) this.seen = this.seen.filter((zone) => !bare.includes(zone));
    else this.#see(own);
  }

  #see(zones: readonly Zone[]) {
    this.seen = [...this.seen, ...zones.filter((zone) => this.workable(zone) && !this.seen.includes(zone))];
  }

  #look(): Look {
    return {
      after_min: this.minutes,
      light: this.light as Look['light'],
      seen: this.seen,
      zones: Object.fromEntries(
        Object.entries(this.painted).map(([zone, signs]) => [
          zone,
          Object.fromEntries(Object.entries(signs).filter(([, grade]) => grade)),
        ]),
      ) as Look['zones'],
      note: this.note,
      next_time: this.nextTime,
      colours: this.colours ?? {},
    };
  }

  async save() {
    const look = this.#look();
    this.busy = true;
    const stored = await this.#send(() =>
      ask(api.PUT('/api/wears/{id}/look', { params: this.#here, body: { look } })),
    );
    if (stored) this.clear();
  }

  /** Hold the look in hand, so that it is still there after a reload or without the server. */
  hold() {
    this.#draft.text = this.touched ? JSON.stringify(this.#look()) : '';
  }

  #restore() {
    if (!this.#draft.text) return;
    try {
      this.edit(JSON.parse(this.#draft.text) as Look);
    } catch {
      this.#draft.text = '';
    }
  }

  /** A fresh look in hand. */
  clear() {
    [this.painted, this.seen, this.note, this.nextTime, this.colours] = [{}, [], '', '', {}];
  }

  /** Take a look that was noted back into hand, to change it. */
  edit(look: Look) {
    this.minutes = look.after_min;
    this.light = look.light ?? 'daylight';
    this.painted = (look.zones ?? {}) as Painted;
    const painted = Object.keys(look.zones ?? {}) as Zone[];
    this.seen = [...(look.seen ?? []), ...painted.filter((zone) => !look.seen?.includes(zone))];
    [this.note, this.nextTime, this.colours] = [look.note ?? '', look.next_time ?? '', look.colours ?? {}];
  }

  readColour(zone: Zone, lab: Lab) {
    this.colours = { ...this.colours, [zone]: lab };
  }

  forgetColour(zone: Zone) {
    this.colours = Object.fromEntries(
      Object.entries(this.colours ?? {}).filter(([each]) => each !== zone),
    ) as Look['colours'];
  }

  /** Changes go one after another, so that what was said last stands in the end. */
  #send(call: () => Promise<Schemas['WearWire']>) {
    return this.#turns.run(async () => {
      this.busy = true;
      const stored = await tried(call());
      this.busy = false;
      if (stored) this.#take(stored);
      return stored;
    });
  }

  wornOn(worn: Schemas['Worn']) {
    return this.#send(() => ask(api.PUT('/api/wears/{id}/day', { params: this.#here, body: { worn } })));
  }

  say(verdict: Schemas['VerdictInput']) {
    return this.#send(() =>
      ask(api.PUT('/api/wears/{id}/verdict', { params: this.#here, body: { verdict } })),
    );
  }

  async attach(minutes: number, file: File) {
    const params = { ...this.#here, query: { after_min: minutes } };
    const body = await sent(file, file.type || 'application/octet-stream');
    return this.#send(() => ask(api.PUT('/api/wears/{id}/photo', { params, ...body })));
  }

  detach(minutes: number) {
    const params = { ...this.#here, query: { after_min: minutes } };
    return this.#send(() => ask(api.DELETE('/api/wears/{id}/photo', { params })));
  }

  /** Forget the whole record. */
  async remove(): Promise<boolean> {
    const done = await tried(ask(api.DELETE('/api/wears/{id}', { params: this.#here })).then(() => true));
    return done === true;
  }

  get #here() {
    return { path: { id: this.id } };
  }

  async forget(minutes: number) {
    const stored = await tried(
      ask(
        api.DELETE('/api/wears/{id}/look', {
          params: { path: { id: this.id }, query: { after_min: minutes } },
        }),
      ),
    );
    if (stored) this.#take(stored);
  }
}
