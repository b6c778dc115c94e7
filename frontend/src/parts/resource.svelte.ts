import { Latest } from './latest';
import { reason } from './reason';
import { whenever } from './whenever.svelte';

/** Something that is loaded: what came, whether it is waited for, and why it did not come. */
export class Resource<T> {
  value = $state.raw<T | null>(null);
  /** Why it did not come at the last try, in words for a person; empty where it did, or was not tried. */
  failed = $state('');
  loading = $state(false);
  #asked = new Latest();

  /** ``came`` takes what came, for a state that holds parts of it and changes them. */
  constructor(
    private readonly fetch: () => Promise<T>,
    private readonly came: (found: T) => void = () => undefined,
  ) {}

  /** Whether what is shown is from before: it is asked for anew, or did not come anew. */
  get stale(): boolean {
    return this.value !== null && (this.loading || this.failed !== '');
  }

  /** Load it, or try again; whether it came. Of several tries only the last one counts. */
  load = async (): Promise<boolean> => {
    this.loading = true;
    try {
      const found = await this.#asked.of(this.fetch().then((value) => ({ value })));
      if (!found) return false;
      [this.value, this.failed] = [found.value, ''];
      this.came(found.value);
    } catch (error) {
      this.failed = reason(error);
    }
    this.loading = false;
    return this.failed === '';
  };

  /** What is asked for is another thing now: what came, or did not, says nothing of it. */
  forget(): void {
    this.drop();
    [this.value, this.failed] = [null, ''];
  }

  /** Nobody waits any more for what was asked; what is shown stays. */
  drop(): void {
    this.#asked.drop();
    this.loading = false;
  }
}

/** In a component: what a key names, such as an id in the address; loaded at once, and anew with another key. */
export function keyed<K, T>(
  key: () => K,
  fetch: (key: K) => Promise<T>,
  came?: (found: T) => void,
): Resource<T> {
  const found = new Resource(() => fetch(key()), came);
  whenever(key, () => {
    found.forget();
    void found.load();
  });
  return found;
}
