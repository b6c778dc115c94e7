import type { Live } from '../../api/client';
import type { FullLog } from './run-log';

/** A run as this browser keeps it until the server has all of it. */
export interface KeptRun {
  live: Live;
  log: FullLog;
  current: string | null;
  turned: number;
  pausedAt: number | null;
  unsent: boolean;
}

const keyOf = (id: string) => `nabrel run ${id}`;

export function keep(id: string, run: KeptRun) {
  localStorage.setItem(keyOf(id), JSON.stringify(run));
}

/** What is kept of a run; null where nothing is, or nothing that can be read. */
export function kept(id: string): KeptRun | null {
  try {
    return JSON.parse(localStorage.getItem(keyOf(id)) ?? 'null') as KeptRun | null;
  } catch {
    return null;
  }
}

export function forget(id: string) {
  localStorage.removeItem(keyOf(id));
}
