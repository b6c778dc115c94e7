import { notices } from './notices.svelte';

/** What a call answers; null where it was refused, which is said. */
export async function tried<T>(call: Promise<T>): Promise<T | null> {
  try {
    return await call;
  } catch (error) {
    notices.refuse(error);
    return null;
  }
}
