import type { ClassShown } from '../../api/client';
import { timeOfDay } from '../pace/clock';

/** The hour on the wall so many seconds after the start of a class, as its clocks show it then. */
export function hour(start: string, seconds: number, jumps: ClassShown['jumps'] = []): string {
  return timeOfDay(
    start,
    seconds + jumps.reduce((sum, each) => sum + (each.at_s <= seconds ? each.by_s : 0), 0),
  );
}

/** A length as it is said: "12 min", "1 h 05 min", "45 s". */
export function spoken(seconds: number): string {
  if (seconds < 60) return `${Math.round(seconds)} s`;
  const minutes = Math.round(seconds / 60);
  if (minutes < 60) return `${minutes} min`;
  return `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')} min`;
}
