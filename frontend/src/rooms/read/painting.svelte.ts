import type { Condition, Preset, Schemas, Zone } from '../../api/client';
import { words } from '../../parts/vocabulary.svelte';
import type { ReadState } from './read.svelte';

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

/** Conditions painted on the zones of a face, over what the preset sets. */
export class Painting {
  brush = $state<Brush>({ condition: 'oily', severity: 2, erase: false });
  bothSides = $state(false);
  /** Zones painted in the stroke that is under way. */
  painted = $state.raw<readonly Zone[]>([]);

  constructor(private readonly read: ReadState) {}

  /** Severity of a condition on a zone as it counts, preset included. */
  severity(zone: Zone, condition: Condition): number {
    const own = this.read.face?.record.zones?.[zone]?.conditions?.[condition];
    return own ?? this.#preset(zone)[condition] ?? 0;
  }

  /** Everything read on a zone, preset included. */
  conditions(zone: Zone): Partial<Record<Condition, number>> {
    const all = { ...this.#preset(zone), ...this.read.face?.record.zones?.[zone]?.conditions };
    return Object.fromEntries(Object.entries(all).filter(([, severity]) => severity > 0));
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
    this.#lay(this.#zones(zones), (zone) =>
      erase
        ? Object.fromEntries(Object.keys(this.conditions(zone)).map((each) => [each, 0]))
        : { [condition]: severity },
    );
  }

  /** Copy one side onto the other, conditions and measured colours. */
  mirror(from: 'l' | 'r') {
    if (!this.read.face) return;
    const zones = { ...this.read.face.record.zones };
    for (const info of words.all?.zones ?? []) {
      if (info.side !== from) continue;
      const other = otherSide(info.id);
      const erased = Object.fromEntries(Object.keys(this.conditions(other)).map((each) => [each, 0]));
      zones[other] = { ...(zones[other] ?? UNREAD), conditions: { ...erased, ...this.conditions(info.id) } };
    }
    this.read.set({ zones });
  }

  choosePreset(preset: Preset) {
    this.read.set({ preset });
  }

  #preset(zone: Zone): Partial<Record<Condition, number>> {
    const preset = words.all?.presets.find((each) => each.id === this.read.face?.record.preset);
    return (preset?.zones[zone] ?? {}) as Partial<Record<Condition, number>>;
  }

  #zones(zones: readonly Zone[]): Zone[] {
    const all = this.bothSides ? zones.flatMap((zone) => [zone, otherSide(zone)]) : zones;
    return all.filter((zone, place) => all.indexOf(zone) === place);
  }

  #lay(zones: readonly Zone[], what: (zone: Zone) => Record<string, number>) {
    if (!this.read.face) return;
    const next = { ...this.read.face.record.zones };
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
    this.read.set({ zones: next });
  }
}
