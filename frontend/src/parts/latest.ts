/**
 * Questions of which only the last one counts: answers can overtake each other, and one to an older question
 * would be shown as if it were about what is chosen now.
 */
export class Latest {
  #asked = 0;

  /** The answer; undefined where something else was asked since, or the question dropped, also if it was refused. */
  async of<T>(question: Promise<T>): Promise<T | undefined> {
    const own = ++this.#asked;
    try {
      const answer = await question;
      return own === this.#asked ? answer : undefined;
    } catch (error) {
      if (own === this.#asked) throw error;
      return undefined;
    }
  }

  /** Nobody waits any more for what was asked. */
  drop(): void {
    this.#asked += 1;
  }
}
