import { expect, test } from 'vitest';
import { activeOf, handOn, handsOf, itemOf, namesOf, sameMix, unitWords, zonesOf } from '../src/plan/steps';
import { step } from './plans';

const shared = step('s1', 'foundation', ['chin'], {
  mix: [
    { item: 'thin', share: 0.4 },
    { item: 'deep', share: 0.6 },
  ],
  portions: [
    { zones: ['chin', 'jaw_l'], amount: 3, tool: 'damp_sponge', motion: 'bounce', active_s: 20 },
    { zones: ['jaw_l', 'neck'], amount: 1, tool: 'damp_sponge', motion: 'bounce' },
    { zones: ['ear_l'], amount: 1, tool: 'fingers', motion: 'press', active_s: 10 },
  ],
  then: { tool: 'fluffy_brush', motion: 'whisk', active_s: 30 },
} as never);

test('zones are told once, in the order of the portions', () => {
  expect(zonesOf(shared)).toEqual(['chin', 'jaw_l', 'neck', 'ear_l']);
  expect(zonesOf(step('s2', 'mist' as never, []))).toEqual([]);
});

test('the item of a mix is the one with the largest share', () => {
  expect(itemOf(shared)).toBe('deep');
  expect(itemOf(step('s2', 'soften_edges', []))).toBeNull();
});

test('a mix is the same with the same items in the same shares only', () => {
  const other = {
    ...shared,
    mix: [
      { item: 'thin', share: 0.5 },
      { item: 'deep', share: 0.5 },
    ],
  };
  expect(sameMix(shared, { ...shared })).toBe(true);
  expect(sameMix(shared, other as never)).toBe(false);
  expect(
    sameMix(
      step('a', 'conceal', [], { mix: [{ item: 'x' }] } as never),
      step('b', 'conceal', [], { mix: [{ item: 'x', share: 1 }] } as never),
    ),
  ).toBe(true);
});

test('names are those of the shelf, or the id of an item that is gone', () => {
  expect(namesOf(shared, { thin: { name: 'Thin Satin' } } as never)).toBe('Thin Satin and deep');
});

test('every tool with its motion is told once, the second tool last', () => {
  expect(handsOf(shared)).toEqual([
    { tool: 'damp_sponge', motion: 'bounce' },
    { tool: 'fingers', motion: 'press' },
    { tool: 'fluffy_brush', motion: 'whisk' },
  ]);
  expect(handsOf(step('s2', 'light_check', []))).toEqual([]);
});

test('a zone is worked by the first portion that names it', () => {
  expect(handOn(shared, 'jaw_l')?.amount).toBe(3);
  expect(handOn(shared, 'nose_tip')).toBeUndefined();
});

test('seconds add up over portions and the second tool', () => {
  expect(activeOf(shared)).toBe(20 + 15 + 10 + 30);
});

test('amounts are in µm of film or mg/cm² of powder', () => {
  expect(unitWords(shared)).toBe('µm');
  expect(unitWords({ ...shared, unit: 'mg_cm2' } as never)).toBe('mg/cm²');
});
