import { api, ask } from '../api/client';
import { reason } from './reason';

/** Who is signed in here, where the server demands it. */
class Session {
  /** Whether the server has said if one must sign in; nothing is shown before. */
  known = $state(false);
  demanded = $state(false);
  name = $state<string | null>(null);
  role = $state<'educator' | 'student' | null>(null);
  /** Whether somebody was signed in since this page was opened: what they were at stays open behind the sign-in. */
  entered = $state(false);
  #before: string | null = null;

  get needed(): boolean {
    return this.known && this.demanded && this.name === null;
  }

  async load(): Promise<void> {
    try {
      this.#take(await ask(api.GET('/api/session')));
    } catch {
      // No answer, or an older server: the rooms say themselves what is wrong.
    }
    this.known = true;
  }

  /** Sign in. Throws the refusal where name and password do not go together. */
  async signIn(name: string, password: string): Promise<void> {
    const found = await ask(api.POST('/api/session', { body: { name, password } }));
    if (this.#before !== null && this.#before !== found.name) {
      // Somebody else: what the one before had open is not theirs.
      location.assign('/');
      return;
    }
    this.#take(found);
  }

  async signOut(everywhere = false): Promise<void> {
    await ask(everywhere ? api.DELETE('/api/session/everywhere') : api.DELETE('/api/session'));
    location.assign('/');
  }

  async changePassword(now: string, next: string): Promise<void> {
    await ask(api.PUT('/api/session/password', { body: { now, new: next } }));
  }

  /**
   * A request was refused because nobody is signed in: so it is, or it left before the last sign-in or the
   * last change of the password and is late. Says whether somebody is.
   */
  async refused(): Promise<boolean> {
    if (!this.demanded || this.name === null) return false;
    const now = await ask(api.GET('/api/session')).catch(() => null);
    if (now?.name) return true;
    this.name = null;
    this.role = null;
    return false;
  }

  #take(found: { demanded: boolean; name?: string | null; role?: 'educator' | 'student' | null }): void {
    this.demanded = found.demanded;
    this.name = found.name ?? null;
    this.role = found.role ?? null;
    if (this.name !== null) {
      this.entered = true;
      this.#before = this.name;
    }
  }
}

export const session = new Session();

api.use({
  async onResponse({ request, response }) {
    if (response.status !== 401 || !(await session.refused())) return;
    // What was only late is read again. What it would have changed is not: the person is told, and says it again.
    if (request.method === 'GET') return fetch(request);
  },
});

/** What a refusal says, for a form that shows it in place. */
export function saysWhy(error: unknown): string {
  return reason(error);
}
