/** Text that is being typed: kept over a reload until it is sent or thrown away. */
export class Draft {
  #key: string;
  #text = $state('');

  constructor(about: string) {
    this.#key = `nabrel draft ${about}`;
    try {
      this.#text = localStorage.getItem(this.#key) ?? '';
    } catch {
      // Without storage a draft lives as long as the page.
    }
  }

  get text(): string {
    return this.#text;
  }

  set text(next: string) {
    this.#text = next;
    try {
      if (next) localStorage.setItem(this.#key, next);
      else localStorage.removeItem(this.#key);
    } catch {
      // As above.
    }
  }

  /** The text as it is sent, and no draft any more. */
  take(): string {
    const text = this.#text.trim();
    this.text = '';
    return text;
  }
}
