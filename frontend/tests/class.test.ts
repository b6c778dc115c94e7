import { describe, expect, it } from 'vitest';
import type { ClassShown } from '../src/api/client';
import { hour, spoken } from '../src/rooms/class/hours';
import { blockWords, lanesOf } from '../src/rooms/class/lanes';

const phase = (name: string, start_s: number, end_s: number, step: string, words: string) => ({
  phase: name,
  start_s,
  end_s,
  steps: [step],
  words,
});
const task = (
  what: string,
  start_s: number,
  end_s: number,
  station: number | null,
  block: number | null,
) => ({
  what,
  start_s,
  end_s,
  station,
  block,
  item: null,
  educator: null,
  whom: null,
});
const found = {
  room: { start: '18:30', stations: 2 },
  jumps: [],
  lesson: {
    blocks: [
      phase('demonstrate', 0, 300, 's1', 'skin'),
      phase('practise', 300, 1200, 's1', 'skin'),
      phase('break', 1200, 1800, 's5', ''),
      phase('demonstrate', 1800, 2000, 's5', 'sculpt'),
      phase('practise', 2000, 2600, 's5', 'sculpt'),
    ],
    educators: [
      [
        { what: 'show', start_s: 0, end_s: 300, block: 0, student: '', station: null },
        { what: 'check', start_s: 900, end_s: 945, block: 0, student: 'Ida', station: 1 },
      ],
    ],
    students: [
      {
        name: 'Ida',
        tasks: [
          task('watch', 0, 300, null, 0),
          task('turn', 300, 360, 1, 0),
          task('practise', 360, 900, 1, 0),
          task('check', 900, 945, 1, 0),
        ],
      },
      { name: 'Ned', tasks: [task('watch', 0, 945, null, 0), task('practise', 945, 1150, 1, 0)] },
    ],
  },
} as unknown as ClassShown;

describe('the hours of a class', () => {
  it('counts across midnight', () => {
    expect(hour('23:30', 3600)).toBe('00:30');
    expect(hour('18:30', -1800)).toBe('18:00');
  });

  it('follows clocks that are put forward or back', () => {
    const back = [{ at_s: 5400, by_s: -3600 }];
    expect(hour('00:30', 5300, back)).toBe('01:58');
    expect(hour('00:30', 5400, back)).toBe('01:00');
  });

  it('says lengths as they are spoken', () => {
    expect([spoken(45), spoken(720), spoken(7500)]).toEqual(['45 s', '12 min', '2 h 05 min']);
  });
});

describe('the lanes of a class', () => {
  const lanes = lanesOf(found);
  const lane = (id: string) => lanes.find((each) => each.id === id)!;

  it('names blocks by their number', () => {
    expect(blockWords(found, 1)).toBe('2 sculpt');
    expect(lane('lesson').stretches.map((each) => each.block)).toEqual([0, 0, null, 1, 1]);
  });

  it('lets only what is shown be dragged', () => {
    const dragged = lane('lesson').stretches.filter((each) => each.step);
    expect(dragged.map((each) => each.step)).toEqual(['s1', 's5']);
  });

  it('holds a station from the first turn to the check, one student after the other', () => {
    const held = lane('station 1').stretches;
    expect(held.map((each) => [each.says, each.from, each.to])).toEqual([
      ['Ida', 300, 945],
      ['Ned', 945, 1150],
    ]);
    expect(lanes.some((each) => each.id === 'station 2')).toBe(false);
  });

  it('says who is checked where and when', () => {
    expect(lane('educator 0').stretches[1]!.title).toBe('18:45 to 18:45, 45 s: checks Ida, station 1');
  });
});
