import type { Intent, Vocabulary, Wishes } from '../../api/client';

type Option = Vocabulary['options'][number];
type Value = string | boolean;

/** Options that stand on the wishes themselves, not among the ways of working. */
const ON_THE_WISH = ['order', 'blend'];

/** The wishes of a plan as they are being changed; only what differs is sent. */
export class WishesState {
  changed = $state<Record<string, unknown>>({});
  ways = $state<Record<string, Value>>({});

  constructor(readonly intent: Intent) {}

  get any(): boolean {
    return Object.keys(this.changed).length + Object.keys(this.ways).length > 0;
  }

  value<K extends keyof Intent>(name: K): NonNullable<Intent[K]> {
    return (this.changed[name] ?? this.intent[name]) as NonNullable<Intent[K]>;
  }

  set(name: string, value: unknown) {
    this.changed = { ...this.changed, [name]: value };
  }

  way(option: Option): string {
    if (ON_THE_WISH.includes(option.name)) return String(this.value(option.name as keyof Intent));
    const own =
      this.ways[option.name] ?? this.intent.options?.[option.name as never] ?? option.ways[0]?.value;
    return String(own);
  }

  choose(option: Option, way: string) {
    if (ON_THE_WISH.includes(option.name)) this.set(option.name, way);
    else this.ways = { ...this.ways, [option.name]: way === 'true' ? true : way === 'false' ? false : way };
  }

  /** What to ask the core for. */
  get wish(): Wishes {
    const wish = { ...this.changed } as Wishes;
    if (Object.keys(this.ways).length) wish.options = this.ways as NonNullable<Wishes['options']>;
    return wish;
  }
}
