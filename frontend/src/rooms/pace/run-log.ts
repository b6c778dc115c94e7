import type { Block, Log } from '../../api/client';

/** What was tapped during a run, and the arithmetic of its clock. Seconds count from the start of the run. */

type Done = NonNullable<Log['done']>[number];
export type State = Done['state'];

/** A log with every list there. */
export interface FullLog {
  done: Done[];
  pauses: NonNullable<Log['pauses']>;
  notes: NonNullable<Log['notes']>;
}

export const EMPTY: FullLog = { done: [], pauses: [], notes: [] };

export function full(log: Log): FullLog {
  return { done: log.done ?? [], pauses: log.pauses ?? [], notes: log.notes ?? [] };
}

/** The block that an entry of the log is of. */
function blockOf(entry: Done): string {
  return entry.side ? `${entry.step}:${entry.side}` : entry.step;
}

/** When each block ended; a block that was done again ended the last time. */
export function ends(log: FullLog): Map<string, number> {
  const found = new Map<string, number>();
  for (const entry of log.done)
    found.set(blockOf(entry), Math.max(found.get(blockOf(entry)) ?? 0, entry.to_s));
  return found;
}

/** Blocks that are still to do, in the order of the timetable. */
export function open(blocks: Block[], log: FullLog): Block[] {
  const ended = ends(log);
  return blocks.filter((block) => !ended.has(block.id));
}

/** Blocks that were skipped and never done. */
export function skipped(blocks: Block[], log: FullLog): Block[] {
  return blocks.filter((block) => {
    const own = log.done.filter((entry) => blockOf(entry) === block.id);
    return own.length > 0 && own.every((entry) => entry.state === 'skipped');
  });
}

export interface Bound {
  /** Second of the run at which it holds. */
  at: number;
  /** The block that binds it, and why. */
  block: string;
  says: string;
}

/** From when on a block may be done: the last of the waits that hold it; null where none does. */
export function readyAt(block: Block, log: FullLog): Bound | null {
  const ended = ends(log);
  const all = block.after.flatMap((hold) => {
    const end = ended.get(hold.block);
    return end === undefined || hold.seconds <= 0
      ? []
      : [{ at: end + hold.seconds, block: hold.block, says: hold.says }];
  });
  return all.sort((one, other) => other.at - one.at)[0] ?? null;
}

/** By when a block should have begun: the first of the longest waits that run; null where none does. */
export function dueAt(block: Block, log: FullLog): Bound | null {
  const ended = ends(log);
  const all = block.by.flatMap((hold) => {
    const end = ended.get(hold.block);
    return end === undefined ? [] : [{ at: end + hold.seconds, block: hold.block, says: hold.says }];
  });
  return all.sort((one, other) => one.at - other.at)[0] ?? null;
}

/** Whether nothing that must come first is still to do, and every wait is over. */
export function free(block: Block, log: FullLog, now: number): boolean {
  const ended = ends(log);
  return block.after.every((hold) => ended.has(hold.block)) && (readyAt(block, log)?.at ?? -Infinity) <= now;
}

/** What may be done now in place of a block that must wait: what fits into the wait first, the longest of it. */
export function meanwhile(blocks: Block[], log: FullLog, now: number, waiting: Block): Block[] {
  const until = readyAt(waiting, log)?.at ?? now;
  return open(blocks, log)
    .filter((block) => block.id !== waiting.id && free(block, log, now))
    .sort(
      (one, other) =>
        Number(now + other.seconds <= until) - Number(now + one.seconds <= until) ||
        other.seconds - one.seconds,
    );
}

/** Blocks that are still to do and should have begun by now, the latest first. */
export function late(
  blocks: Block[],
  log: FullLog,
  now: number,
): { block: Block; by: number; says: string }[] {
  return open(blocks, log)
    .flatMap((block) => {
      const due = dueAt(block, log);
      return due && due.at < now ? [{ block, by: now - due.at, says: due.says }] : [];
    })
    .sort((one, other) => other.by - one.by);
}

/** The log with a block done, skipped or done once more, from when it was turned to until now. */
export function withDone(log: FullLog, block: Block, from: number, to: number, state: State): FullLog {
  // What was skipped before and is done after all was not skipped.
  const before = log.done.filter((entry) => !(blockOf(entry) === block.id && entry.state === 'skipped'));
  const entry: Done = { step: block.step, from_s: rounded(Math.min(from, to)), to_s: rounded(to), state };
  return { ...log, done: [...before, block.side ? { ...entry, side: block.side } : entry] };
}

/** The log without the last thing done, and which block that was of. */
export function withoutLast(log: FullLog): { log: FullLog; block: string; from: number } | null {
  const last = log.done.at(-1);
  if (!last) return null;
  return { log: { ...log, done: log.done.slice(0, -1) }, block: blockOf(last), from: last.from_s };
}

export function withPause(log: FullLog, from: number, to: number): FullLog {
  return to - from < 1
    ? log
    : { ...log, pauses: [...log.pauses, { from_s: rounded(from), to_s: rounded(to) }] };
}

export function withNote(log: FullLog, at: number, text: string): FullLog {
  const said = text.trim().slice(0, 600);
  return said ? { ...log, notes: [...log.notes, { at_s: rounded(at), text: said }] } : log;
}

/** Seconds of a stretch that were no pause. */
export function worked(log: FullLog, from: number, to: number): number {
  const paused = log.pauses.reduce(
    (sum, pause) => sum + Math.max(0, Math.min(to, pause.to_s) - Math.max(from, pause.from_s)),
    0,
  );
  return Math.max(0, to - from - paused);
}

function rounded(seconds: number): number {
  return Math.round(Math.max(0, seconds) * 10) / 10;
}
