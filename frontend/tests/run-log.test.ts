import { describe, expect, test } from 'vitest';
import type { Block } from '../src/api/client';
import * as runLog from '../src/rooms/pace/run-log';

const block = (id: string, fields: Partial<Block> = {}): Block => ({
  id,
  step: id.split(':')[0]!,
  side: '',
  number: 1,
  title: id,
  take: '',
  make_ready: '',
  products: [],
  hex: null,
  where: '',
  hands: [],
  cues: [],
  check: '',
  why: '',
  zones: [],
  clean: [],
  seconds: 30,
  start_s: 0,
  feature: false,
  after: [],
  by: [],
  ...fields,
});
const hold = (of: string, seconds: number) => ({ block: of, seconds, says: `because of ${of}` });

const SUNSCREEN = block('s1');
const PRIMER = block('s2', { after: [hold('s1', 900)] });
const BROWS = block('s3', { seconds: 120 });
const POWDER = block('s4', { after: [hold('s2', 0)], by: [hold('s2', 30)] });
const BLOCKS = [SUNSCREEN, PRIMER, BROWS, POWDER];

const after = (...done: [Block, number, number][]) =>
  done.reduce((log, [each, from, to]) => runLog.withDone(log, each, from, to, 'done'), runLog.EMPTY);

describe('what comes next', () => {
  test('is what was not done or skipped, in the order of the timetable', () => {
    const log = runLog.withDone(after([SUNSCREEN, 0, 90]), BROWS, 90, 90, 'skipped');
    expect(runLog.open(BLOCKS, log).map((each) => each.id)).toEqual(['s2', 's4']);
    expect(runLog.skipped(BLOCKS, log)).toEqual([BROWS]);
  });

  test('a skipped block that is done after all is no longer skipped', () => {
    const skipped = runLog.withDone(runLog.EMPTY, BROWS, 5, 5, 'skipped');
    const done = runLog.withDone(skipped, BROWS, 10, 50, 'done');
    expect(runLog.skipped(BLOCKS, done)).toEqual([]);
    expect(done.done).toHaveLength(1);
  });
});

describe('waits', () => {
  test('a block is ready when the last of its waits is over, and only waits that run count', () => {
    expect(runLog.readyAt(PRIMER, runLog.EMPTY)).toBeNull();
    const log = after([SUNSCREEN, 0, 90]);
    expect(runLog.readyAt(PRIMER, log)).toMatchObject({ at: 990, block: 's1' });
    expect(runLog.free(PRIMER, log, 989)).toBe(false);
    expect(runLog.free(PRIMER, log, 990)).toBe(true);
  });

  test('a block that must come after one still to do is not free', () => {
    expect(runLog.free(POWDER, after([SUNSCREEN, 0, 90]), 5000)).toBe(false);
  });

  test('what fits into a wait comes first among what can be done meanwhile', () => {
    const long = block('s5', { seconds: 2000 });
    const log = after([SUNSCREEN, 0, 90]);
    expect(runLog.meanwhile([...BLOCKS, long], log, 100, PRIMER).map((each) => each.id)).toEqual([
      's3',
      's5',
    ]);
  });

  test('a longest wait that has run out is late by what it ran over', () => {
    const log = after([SUNSCREEN, 0, 90], [PRIMER, 990, 1005]);
    expect(runLog.late(BLOCKS, log, 1035)).toEqual([]);
    expect(runLog.late(BLOCKS, log, 1045)).toMatchObject([{ block: POWDER, by: 10 }]);
  });
});

describe('the log', () => {
  test('keeps the side of a block and counts both sides apart', () => {
    const first = block('s9:first', { side: 'first' });
    const second = block('s9:second', { side: 'second' });
    const log = after([first, 0, 40]);
    expect(log.done[0]).toMatchObject({ step: 's9', side: 'first' });
    expect(runLog.open([first, second], log)).toEqual([second]);
  });

  test('back takes the last entry away and says when it began', () => {
    const log = after([SUNSCREEN, 0, 90], [BROWS, 95, 200]);
    const before = runLog.withoutLast(log);
    expect(before).toMatchObject({ block: 's3', from: 95 });
    expect(before?.log.done).toHaveLength(1);
    expect(runLog.withoutLast(runLog.EMPTY)).toBeNull();
  });

  test('pauses are no work, and one shorter than a second is none', () => {
    const log = runLog.withPause(runLog.EMPTY, 100, 160);
    expect(runLog.worked(log, 90, 200)).toBe(50);
    expect(runLog.worked(log, 120, 150)).toBe(0);
    expect(runLog.withPause(log, 200, 200.4)).toBe(log);
  });

  test('never runs backwards, and empty notes are not kept', () => {
    expect(runLog.withDone(runLog.EMPTY, BROWS, 50, 40, 'done').done[0]).toMatchObject({
      from_s: 40,
      to_s: 40,
    });
    expect(runLog.withNote(runLog.EMPTY, 5, '  ')).toBe(runLog.EMPTY);
    expect(runLog.withNote(runLog.EMPTY, 5, 'x'.repeat(900)).notes[0]?.text).toHaveLength(600);
  });
});
