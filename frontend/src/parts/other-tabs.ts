/** Tabs of one browser tell each other which plan they changed. */

interface Told {
  plan: string;
  revision: number;
}

const channel = typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel('nabrel-plans');

/** Tell the other tabs that a plan stands on another revision now. */
export function told(plan: string, revision: number) {
  channel?.postMessage({ plan, revision } satisfies Told);
}

/** Hear of changes made in other tabs; call the answer to stop. */
export function heed(run: (told: Told) => void): () => void {
  const heard = (event: MessageEvent<Told>) => run(event.data);
  channel?.addEventListener('message', heard);
  return () => channel?.removeEventListener('message', heard);
}
