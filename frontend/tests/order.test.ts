import { expect, test } from 'vitest';
import { amountWords, chaptersOf, clashing, waitWords } from '../src/rooms/layer/order';
import { reason } from '../src/parts/reason';
import { plan, step } from './plans';

test('steps in a row of one chapter stand together, with the minutes that they take', () => {
  const shown = plan({
    chapters: ['foundation', 'finish', 'finish'],
    steps: [
      step('s1', 'foundation', ['chin'], { wait_s: 40 }),
      step('s2', 'bake', ['nose_tip'], { wait_s: 300 }),
      step('s3', 'dust_off', ['nose_tip']),
    ],
  } as never);
  expect(
    chaptersOf(shown).map(({ words, first, steps, minutes }) => [words, first, steps.length, minutes]),
  ).toEqual([
    ['Foundation', 0, 1, 1],
    ['Finish', 1, 2, 6],
  ]);
  expect(chaptersOf(plan({ steps: [], chapters: [] } as never))).toEqual([]);
});

test('a chapter that comes again is another one', () => {
  const shown = plan({ chapters: ['skin', 'finish', 'skin'] } as never);
  expect(chaptersOf(shown).map(({ words }) => words)).toEqual(['Skin', 'Finish', 'Skin']);
});

test('an amount is told from its least portion to its most, and not where nothing is laid', () => {
  const even = step('s1', 'foundation', ['chin'], { unit: 'um' } as never);
  expect(amountWords(even)).toBe('2 µm');
  const uneven = {
    ...even,
    portions: [
      { zones: ['chin'], amount: 5 },
      { zones: ['nose_tip'], amount: 2 },
    ],
  };
  expect(amountWords(uneven as never)).toBe('2–5 µm');
  expect(amountWords(step('s2', 'light_check', []))).toBe('');
});

test('a wait is told in minutes from two on', () => {
  expect([waitWords(90), waitWords(119.6), waitWords(120), waitWords(600)]).toEqual([
    '90 s',
    '120 s',
    '2 min',
    '10 min',
  ]);
});

test('steps clash both ways, and not where the finding was accepted', () => {
  const found = { rule: 'r', steps: ['s1'], against: ['s3'], zones: [], accepted: '' };
  const shown = plan({ findings: [found, { ...found, steps: ['s2'], accepted: 'on purpose' }] } as never);
  const [one, two, three] = shown.steps;
  expect(clashing(shown, one!)).toEqual(['s3']);
  expect(clashing(shown, three!)).toEqual(['s1']);
  expect(clashing(shown, two!)).toEqual([]);
});

test('what went wrong is told in its own words', () => {
  expect(reason(new Error('no room left'))).toBe('no room left');
  expect(reason('cut short')).toBe('cut short');
});
