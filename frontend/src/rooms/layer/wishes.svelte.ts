import type { Intent, Wishes } from '../../api/client';

/** The wishes of a plan as they are being changed; only what differs is sent. */
export class WishesState {
  /** The intent with all that was changed. */
  now = $state.raw<Intent>({} as Intent);

  constructor(readonly intent: Intent) {
    this.now = intent;
  }

  set(change: Partial<Intent>) {
    this.now = { ...this.now, ...change };
  }

  /** What to ask the core for: the fields that differ, and of the ways of working those that do. */
  get wish(): Wishes {
    const { options, ...rest } = differing(this.intent, this.now);
    const ways = options ? differing(this.intent.options ?? {}, this.now.options ?? {}) : {};
    return { ...rest, ...(Object.keys(ways).length ? { options: ways } : {}) } as Wishes;
  }

  get any(): boolean {
    return Object.keys(this.wish).length > 0;
  }
}

/** The fields of an object that are not as they were. */
function differing<T extends object>(was: T, now: T): Partial<T> {
  const same = (one: unknown, other: unknown) => JSON.stringify(one) === JSON.stringify(other);
  const fields = Object.entries(now).filter(([name, value]) => !same(value, was[name as keyof T]));
  return Object.fromEntries(fields) as Partial<T>;
}
