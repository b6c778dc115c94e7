import { api, ask } from '../api/client';

const SHOWN_AFTER_MS = 700;
const ASKED_EVERY_MS = 400;

/** Where the server says how far it has come, and is told to stop. */
type Where = '/api/workspace/progress' | '/api/handouts/progress';

/** Something long that the server does: shown once it takes a while, with a way to cancel it. */
export class UnderWay {
  constructor(private readonly where: Where = '/api/workspace/progress') {}

  shown = $state.raw<{ says: string; done: number; of: number } | null>(null);
  cancelling = $state(false);

  async during<T>(says: string, work: () => Promise<T>): Promise<T> {
    const running = work();
    let ended = false;
    const follow = async () => {
      if (ended) return;
      try {
        const found = await ask(api.GET(this.where));
        if (!ended) this.shown = { says, done: found.done, of: found.of };
      } catch {
        // The work itself says what is wrong.
      }
      if (!ended) timer = setTimeout(follow, ASKED_EVERY_MS);
    };
    let timer = setTimeout(follow, SHOWN_AFTER_MS);
    try {
      return await running;
    } finally {
      ended = true;
      clearTimeout(timer);
      this.shown = null;
      this.cancelling = false;
    }
  }

  async cancel(): Promise<void> {
    this.cancelling = true;
    await ask(api.DELETE(this.where)).catch(() => undefined);
  }
}
