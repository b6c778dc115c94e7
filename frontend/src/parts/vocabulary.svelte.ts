import { api, ask, type Vocabulary, type Zone } from '../api/client';

/** The trade's words, loaded once. */
class Words {
  all = $state<Vocabulary | null>(null);
  #loading: Promise<void> | null = null;

  load(): Promise<void> {
    this.#loading ??= ask(api.GET('/api/vocabulary')).then((found) => {
      this.all = found;
    });
    return this.#loading;
  }

  #of(list: { id: string; words: string }[] | undefined, id: string): string {
    return list?.find((term) => term.id === id)?.words ?? id.replaceAll('_', ' ');
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

  condition(id: string): string {
    return this.#of(this.all?.conditions, id);
  }

  setting(id: string): string {
    return this.#of(this.all?.settings, id);
  }

  light(id: string): string {
    return this.#of(this.all?.lights, id);
  }

  rule(id: string) {
    return this.all?.rules.find((rule) => rule.id === id);
  }

  rank(severity: number): string {
    return this.all?.rank_words[String(severity)] ?? String(severity);
  }
}

export const words = new Words();
