/** A save that came second: what one wanted to keep, and what somebody else kept meanwhile (null: they removed it). */
export interface Clash {
  name: string;
  mine: object;
  theirs: object | null;
  /** Save mine over theirs. */
  save: () => Promise<unknown>;
  /** Go on with theirs. */
  take: () => void;
}

export interface Differing {
  field: string;
  mine: string;
  theirs: string;
}

function told(value: unknown): string {
  if (value === null || value === undefined || value === '') return '–';
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (Array.isArray(value)) return value.length ? value.map(told).join(', ') : '–';
  if (typeof value === 'object') {
    return Object.entries(value)
      .map(([key, each]) => `${key.replaceAll('_', ' ')} ${told(each)}`)
      .join(', ');
  }
  return String(value).replaceAll('_', ' ');
}

/** The fields in which two records differ, in words; a field left out is the same as an empty one. */
export function differing(mine: object, theirs: object): Differing[] {
  const [own, other] = [mine as Record<string, unknown>, theirs as Record<string, unknown>];
  const fields = [...Object.keys(own), ...Object.keys(other).filter((field) => !(field in own))];
  return fields
    .map((field) => ({
      field: field.replaceAll('_', ' '),
      mine: told(own[field]),
      theirs: told(other[field]),
    }))
    .filter((each) => each.mine !== each.theirs);
}

class Clashes {
  shown = $state.raw<Clash | null>(null);

  /** Ask which one is to stand; where both wanted the same, theirs does. */
  ask(clash: Clash): void {
    if (clash.theirs && !differing(clash.mine, clash.theirs).length) clash.take();
    else this.shown = clash;
  }

  async save(): Promise<void> {
    const clash = this.shown;
    this.shown = null;
    await clash?.save();
  }

  take(): void {
    const clash = this.shown;
    this.shown = null;
    clash?.take();
  }
}

export const clashes = new Clashes();
