import { describe, expect, test } from 'vitest';
import drawing from '../../tests/data/face_drawing.json';
import type { Proportions } from '../src/api/client';
import { groups, SHAPES } from '../src/parts/face/chart';
import { drawn, onSheet, placed, USUAL } from '../src/parts/face/proportions';
import { lying, LIES } from '../src/rooms/layer/lies';

const LONG = {
  ...USUAL,
  length: 1.15,
  jaw: 0.85,
  forehead: 1.1,
  brow_height: 1.05,
  nose: 1.2,
  nose_leans: 1,
  eye_down: true,
};

describe('proportions', () => {
  test('of the usual face move nothing', () => {
    for (const [x, y] of [
      [160, 46],
      [77, 244],
      [139, 171],
      [160, 235],
    ] as const) {
      const [nowX, nowY] = placed(x, y, USUAL);
      expect([nowX, nowY]).toEqual([expect.closeTo(x, 9), expect.closeTo(y, 9)]);
    }
    expect(drawn('M160 46 L77 244 Z', USUAL)).toBe('M160.0 46.0 L77.0 244.0 Z');
  });

  test('lengthen the face below the eyes, narrow the jaw and leave the middle where it is', () => {
    expect(placed(160, 330, LONG)[1]).toBeGreaterThan(330);
    expect(placed(160, 330, LONG)[0]).toBeCloseTo(160);
    expect(160 - placed(80, 290, LONG)[0]).toBeLessThan(80);
    expect(160 - placed(80, 95, LONG)[0]).toBeGreaterThan(80);
  });

  // An outer eye that turns down steps by up to four units at its edge: no point leads back across that.
  test.each([
    ['steady', { ...LONG, eye_down: false }, 0.5],
    ['turned down at the outer eye', LONG, 4.5],
  ])('lead from a point of the face back to the sheet, %s', (_, face, near) => {
    let tried = 0;
    for (let x = 70; x <= 250; x += 20) {
      for (let y = 50; y <= 340; y += 25) {
        const [faceX, faceY] = placed(x, y, face);
        const [backX, backY] = onSheet(faceX, faceY, face);
        expect(Math.hypot(backX - x, backY - y)).toBeLessThan(near);
        tried += 1;
      }
    }
    expect(tried).toBeGreaterThan(100);
  });

  test('mirror a path across the middle', () => {
    expect(drawn('M100 200 L160 210', USUAL, true)).toBe('M220.0 200.0 L160.0 210.0');
  });
});

describe('the face map', () => {
  test('has every zone once, and each paired one on both sides', () => {
    const zones = SHAPES.map((shape) => shape.zone);
    expect(new Set(zones).size).toBe(zones.length);
    expect(zones.length).toBe(38);
    const sides = zones.filter((zone) => /_[lr]$/.test(zone));
    for (const zone of sides)
      expect(zones).toContain(zone.replace(/_[lr]$/, zone.endsWith('_l') ? '_r' : '_l'));
    expect(SHAPES.filter((shape) => shape.mirrored).map((shape) => shape.zone)).toEqual(
      sides.filter((zone) => zone.endsWith('_l')),
    );
  });
});

test('how a film lies is told for the letters of the core, and for nothing else', () => {
  expect(Object.keys(LIES).map((letter) => lying(letter)?.words)).toEqual([
    'wet',
    'tacky',
    'set',
    'powdered',
  ]);
  expect(lying('-')).toBeNull();
  expect(lying('toString')).toBeNull();
  expect(lying(undefined)).toBeNull();
});

const NUMBER = /-?\d+(\.\d+)?/g;
const letters = (path: string) => path.replace(NUMBER, '#');
const numbers = (path: string) => path.match(NUMBER)!.map(Number);

test('the screens draw the face that the core draws', () => {
  expect(drawing.length).toBeGreaterThan(2);
  for (const face of drawing) {
    const paths = groups(face.of as Proportions).flatMap((group) => group.marks.map((mark) => mark.path));
    expect(paths.map(letters)).toEqual(face.paths.map(letters));
    // The two languages round a half either way: a tenth of a unit apart is the same point.
    const [mine, theirs] = [paths, face.paths].map((all) => all.flatMap(numbers));
    expect(mine!.length).toBeGreaterThan(1000);
    const apart = mine!.map((number, at) => Math.abs(number - theirs![at]!));
    expect(Math.max(...apart)).toBeLessThan(0.11);
  }
});
