import type { components } from './schema';

export type Job = components['schemas']['JobWire'];

const SHOWN_AFTER_MS = 1200;
const ASKED_EVERY_MS = 1000;
const MOST_TURNS = 20;
const WAITING = '/api/waiting';
/** These have dialogs of their own, which say how far they have come. */
const SAID_ELSEWHERE = new Set(['export', 'preview', 'import', 'handouts']);

type Send = (request: Request) => Promise<Response>;

/** What the server works on, or has waiting, for requests that take a while. */
class Waiting {
  jobs = $state.raw<Job[]>([]);
  #open = 0;
  /** Whether a file is fetched by a link: the page does not hear when it came, so it is over when nothing is worked on. */
  #fetching = false;
  #timer: ReturnType<typeof setTimeout> | undefined;

  /** A request that takes a while: what is worked on is looked up until the last of them has ended. */
  enter() {
    this.#open += 1;
    if (this.#open === 1) void this.#look();
  }

  leave() {
    this.#open -= 1;
    if (this.#open) return;
    clearTimeout(this.#timer);
    this.jobs = [];
  }

  /** A file is being fetched by a link, which may take a while. */
  fetching() {
    if (this.#fetching) return;
    this.#fetching = true;
    setTimeout(() => this.enter(), SHOWN_AFTER_MS);
  }

  async #look() {
    const found = await this.#ask(WAITING, 'GET');
    if (!this.#open) return;
    if (found) this.jobs = found.filter((job) => !SAID_ELSEWHERE.has(job.what));
    if (this.#fetching && !found?.length) {
      this.#fetching = false;
      this.leave();
      if (!this.#open) return;
    }
    this.#timer = setTimeout(() => void this.#look(), ASKED_EVERY_MS);
  }

  async cancel(id: string) {
    const left = await this.#ask(`${WAITING}/${id}`, 'DELETE');
    if (left) this.jobs = left.filter((job) => !SAID_ELSEWHERE.has(job.what));
  }

  async #ask(path: string, method: string): Promise<Job[] | null> {
    try {
      const answer = await fetch(path, { method });
      return answer.ok ? ((await answer.json()) as { jobs: Job[] }).jobs : null;
    } catch {
      return null;
    }
  }
}

export const waiting = new Waiting();

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** A request that knows what it brought: once it is sent its own body is gone, and a copy of it would be a stream. */
export class Asked extends Request {
  readonly brought: BodyInit | null;

  constructor(input: RequestInfo | URL, init?: RequestInit) {
    super(input, init);
    this.brought = init?.body ?? null;
  }

  again(): Request {
    return new Request(this.url, { method: this.method, headers: this.headers, body: this.brought });
  }
}

/** Send a request; where the server is busy with other work, again when it says so. Nothing was begun by then. */
export async function patiently(request: Request, send: Send): Promise<Response> {
  let entered = false;
  const timer = setTimeout(() => {
    entered = true;
    waiting.enter();
  }, SHOWN_AFTER_MS);
  try {
    let next = request;
    for (let turn = 1; ; turn += 1) {
      const response = await send(next);
      const after = Number(response.headers.get('Retry-After'));
      if (response.status !== 503 || !after || turn === MOST_TURNS) return response;
      await pause(1000 * after * (0.75 + Math.random() / 2));
      next = request instanceof Asked ? request.again() : new Request(request);
    }
  } finally {
    clearTimeout(timer);
    if (entered) waiting.leave();
  }
}
