import { api, ask } from '../../api/client';

const SHOWN_AFTER_MS = 700;
const ASKED_EVERY_MS = 400;

/** Something long that the server does with the workspace: shown once it takes a while, with a way to cancel it. */
export class UnderWay {
  shown = $state.raw<{ says: string; done: number; of: number } | null>(null);
  cancelling = $state(false);

  async during<T>(says: string, work: () => Promise<T>): Promise<T> {
    const running = work();
    let ended = false;
    const follow = async () => {
      if (ended) return;
      try {
        const found = await ask(api.GET('/api/workspace/progress'));
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
    await ask(api.DELETE('/api/workspace/progress')).catch(() => undefined);
  }
}
