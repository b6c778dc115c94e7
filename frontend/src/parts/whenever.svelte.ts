import { untrack } from 'svelte';

/**
 * In a component: do work at once and whenever what it is about becomes something else, and for nothing else that
 * the work reads. What the work returns is done before the next time and when the component goes.
 */
export function whenever<T>(about: () => T, work: (now: T) => unknown): void {
  $effect(() => {
    const now = about();
    const done = untrack(() => work(now));
    if (typeof done === 'function') return done as () => void;
  });
}
