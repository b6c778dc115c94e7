import { api, ask, type Vocabulary, type Zone } from '../api/client';

/** A number that a person may set, by the name under which its range is served. */
export type Limited = keyof Vocabulary['limits'];

type Terms = { id: string; words: string }[] | undefined;

/** The trade's words, loaded once and never changed; asked for again where no answer came. */
class Words {
  all = $state.raw<Vocabulary | null>(null);
  /** Words by id for each list that was asked about. */
  #known = new WeakMap<object, Map<string, string>>();
  #loading: Promise<void> | null = null;

  load(): Promise<void> {
    this.#loading ??= ask(api.GET('/api/vocabulary')).then(
      (found) => {
        this.all = found;
      },
      (error: unknown) => {
        this.#loading = null;
        throw error;
      },
    );
    return this.#loading;
  }

  #of(list: Terms, id: string): string {
    if (!list) return id.replaceAll('_', ' ');
    let known = this.#known.get(list);
    if (!known) {
      known = new Map(list.map((term) => [term.id, term.words]));
      this.#known.set(list, known);
    }
    return known.get(id) ?? id.replaceAll('_', ' ');
  }

  zone(id: Zone): string {
    return this.#of(this.all?.zones, id);
  }

  step(id: string): string {
    return this.#of(this.all?.steps, id);
  }

  tool(id: string): string {
    return this.#of(this.all?.tools, id);
  }

  motion(id: string): string {
    return this.#of(this.all?.motions, id);
  }

  school(id: string): string {
    return this.#of(this.all?.schools, id);
  }

  role(id: string): string {
    return this.#of(this.all?.roles, id);
  }

  condition(id: string): string {
    return this.#of(this.all?.conditions, id);
  }

  sign(id: string): string {
    return this.#of(this.all?.signs, id);
  }

  setting(id: string): string {
    return this.#of(this.all?.settings, id);
  }

  light(id: string): string {
    return this.#of(this.all?.lights, id);
  }

  /** What a number may be; anything until the words are loaded, and then the server judges. */
  limit(of: Limited): { low: number; high: number } {
    return this.all?.limits[of] ?? { low: -Infinity, high: Infinity };
  }

  rule(id: string) {
    return this.all?.rules.find((rule) => rule.id === id);
  }

  rank(severity: number): string {
    return this.all?.rank_words[String(severity)] ?? String(severity);
  }
}

export const words = new Words();
