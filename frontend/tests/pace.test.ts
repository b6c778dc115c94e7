import { describe, expect, test } from 'vitest';
import type { Score } from '../src/api/client';
import { pacesOf } from '../src/parts/paces';
import { clock, timeOfDay } from '../src/rooms/pace/clock';
import { axisOf, darkInk, inRows, lanesOf, markEvery, type Bar } from '../src/rooms/pace/score';

type Task = Score['timetable']['tasks'][number];

const task = (step: string, start_s: number, end_s: number, fields: Partial<Task> = {}): Task => ({
  step,
  portion: 0,
  what: 'lay',
  start_s,
  end_s,
  tool: 'fingers',
  of: 'fingers 1',
  ...fields,
});

const NO_TIMING: Score['saved'] = { start: null, ready: null, already: {}, pins: [], sides: 'together' };

function score(tasks: Task[], waits: Score['timetable']['waits'] = []): Score {
  return {
    plan_id: 'p',
    title: 'A plan',
    sitter_id: 's',
    nickname: 'Wren',
    timing: NO_TIMING,
    saved: NO_TIMING,
    rests: [],
    lacks: [],
    owned_spare: [],
    revision: 1,
    student_pace: 2,
    tasks: tasks.map((each, place) => ({
      number: place + 1,
      words: `Step ${each.step}`,
      where: 'on the chin',
      hex: null,
    })),
    waits: waits.map((each) => ({
      number: 1,
      words: `Step ${each.step}`,
      where: 'on the chin',
      regions: ['mouth', 'nose'],
      filled: ['Brows'],
    })),
    timetable: {
      nabrel: 'timetable',
      version: 1,
      possible: true,
      proven: true,
      length_s: Math.max(...tasks.map((each) => each.end_s)),
      as_listed_s: 0,
      greedy_s: null,
      tasks,
      waits,
      longest_chain: ['a'],
      because: [],
      frees: [],
    },
  };
}

const bar = (from: number, to: number): Bar => ({
  step: `${from}`,
  from,
  to,
  says: '',
  short: '',
  title: '',
  hex: null,
  kind: 'work',
  bound: false,
});

describe('times', () => {
  test('are minutes and seconds, before the start too', () => {
    expect([clock(0), clock(75), clock(1830), clock(-600)]).toEqual(['0:00', '1:15', '30:30', '−10:00']);
  });

  test('of day count from the start, over midnight, and are none without one', () => {
    expect(timeOfDay('09:10', 1830)).toBe('09:40');
    expect(timeOfDay('23:50', 1200)).toBe('00:10');
    expect(timeOfDay('09:10', -600)).toBe('09:00');
    expect(timeOfDay('', 10)).toBe('');
  });
});

test("paces are told once each, the student's by the house", () => {
  expect(pacesOf(2).map((each) => each.id)).toEqual(['1', '2', '3']);
  expect(pacesOf(1).map((each) => each.id)).toEqual(['1', '1.5']);
});

describe('lanes', () => {
  test('lay bars that overlap in rows of their own', () => {
    const rows = inRows([bar(0, 10), bar(5, 8), bar(10, 12)]);
    expect(rows.map((row) => row.map((each) => each.from))).toEqual([[0, 10], [5]]);
    expect(inRows([])).toEqual([[]]);
  });

  test('are the hands, what rests in each region once, and each tool', () => {
    const found = lanesOf(
      score(
        [
          task('a', 0, 30),
          task('b', 40, 60, { of: 'puff 1', tool: 'puff' }),
          task('b', 60, 90, { what: 'clean', of: 'puff 1' }),
        ],
        [
          { step: 'a', zones: ['chin'], from_s: 30, to_s: 90, filled_by: ['b'] },
          { step: 'a', zones: ['upper_lip'], from_s: 30, to_s: 90, filled_by: ['b'] },
        ],
      ),
      (id) => `region ${id}`,
      (of) => of,
    );
    expect(found.map((lane) => lane.words)).toEqual([
      'Hands',
      'region mouth',
      'region nose',
      'fingers 1',
      'puff 1',
    ]);
    expect(found[0]?.rows[0]?.map((each) => [each.kind, each.bound])).toEqual([
      ['work', true],
      ['work', false],
      ['clean', false],
    ]);
    expect(found[1]?.rows[0]).toHaveLength(1);
    expect(found[1]?.rows[0]?.[0]?.title).toContain('meanwhile brows');
  });
});

describe('the axis', () => {
  test('is linear where hands work, and short where none does for long', () => {
    const axis = axisOf(score([task('a', 0, 60), task('b', 960, 1020)]), 664, 36);
    expect(axis.breaks).toEqual([{ from: 60, to: 960 }]);
    expect(axis.x(0)).toBe(0);
    expect(axis.x(60)).toBeCloseTo(300);
    expect(axis.x(510) - axis.x(60)).toBeCloseTo(32);
    expect(axis.x(960) - axis.x(60)).toBeCloseTo(64);
    expect(axis.x(1020)).toBeCloseTo(664);
    expect(axis.width).toBeCloseTo(664);
  });

  test('never runs backwards', () => {
    const axis = axisOf(score([task('a', 0, 20), task('b', 200, 260), task('c', 900, 960)]), 100, 36);
    const at = Array.from({ length: 97 }, (_, n) => axis.x(n * 10));
    expect(at.every((each, n) => n === 0 || each >= (at[n - 1] ?? 0))).toBe(true);
    expect(axis.breaks).toHaveLength(2);
  });

  test('has marks that are not too many', () => {
    expect(markEvery(1830, 1100)).toBe(300);
    expect(markEvery(600, 1100)).toBe(60);
    expect(markEvery(100000, 100)).toBe(7200);
  });
});

test('ink is dark on pale colours and pale on dark ones', () => {
  expect([darkInk('#f0e0d0'), darkInk('#3a2a20')]).toEqual([true, false]);
});
