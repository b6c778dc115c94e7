import { describe, expect, test } from 'vitest';
import {
  cellsOf,
  COLUMN,
  columnsOf,
  dropsOf,
  frameOf,
  GAP,
  ghostsOf,
  NAMES,
  placeAt,
  reachOf,
  SCALES,
  walked,
  yOf,
} from '../src/rooms/layer/section';
import { plan, step, ZONES } from './plans';

const shown = plan();
const finished = cellsOf(shown, ZONES, ZONES, 2);
const columns = columnsOf(shown, ZONES, ZONES, finished);

describe('cells', () => {
  test('lie on what is beneath them, powder as film of the same mass', () => {
    const nose = finished.filter((cell) => cell.zone === 'nose_tip');
    expect(nose.map((cell) => [cell.step, cell.from, cell.um])).toEqual([
      [0, 0, 4.5],
      [1, 4.5, 3],
    ]);
  });

  test('show a bake as it was laid until it is dusted off', () => {
    const heights = [0, 1, 2].map((at) => {
      const bake = cellsOf(shown, ZONES, ZONES, at).find((cell) => cell.step === 1);
      return [bake?.powder, bake?.um];
    });
    expect(heights).toEqual([
      [0.3, 3],
      [0.8, 8],
      [0.3, 3],
    ]);
  });

  test('take the colour that the zone shows once the step is done', () => {
    expect(finished.map((cell) => cell.hex)).toEqual(['#110000', '#210000', '#310000', '#220000']);
  });

  test('of some zones only keep the colours and films of those zones', () => {
    const cells = cellsOf(shown, ZONES, ZONES.slice(1), 2);
    expect(cells.map((cell) => [cell.zone, cell.column, cell.hex])).toEqual([
      ['nose_tip', 0, '#210000'],
      ['chin', 1, '#310000'],
      ['nose_tip', 0, '#220000'],
    ]);
  });

  test('are none where nothing was laid', () => {
    expect(cellsOf(plan({ film: [], powder: [], dusted: [] }), ZONES, ZONES, 2)).toEqual([]);
  });
});

describe('columns', () => {
  test('stand side by side, with a gap where a region ends', () => {
    expect(columns.map((column) => column.x)).toEqual([0, COLUMN + GAP, 2 * (COLUMN + GAP)]);
    const one = ZONES.map((zone) => ({ ...zone, region: 'face' }));
    expect(columnsOf(shown, one, one, finished).map((column) => column.x)).toEqual([0, COLUMN, 2 * COLUMN]);
  });

  test('tell skin, limit and load of their zone, and how high the drawn layers reach', () => {
    const nose = columns[1];
    expect(nose).toMatchObject({ skin: '#200000', limit: 12, load: 7.5, height: 7.5 });
    const baking = cellsOf(shown, ZONES, ZONES, 1);
    expect(columnsOf(shown, ZONES, ZONES, baking)[1]?.height).toBe(12.5);
  });
});

describe('scale', () => {
  test('reaches to the ceilings, to the films, or to a fixed height', () => {
    expect(reachOf(columns, 'ceilings')).toBeCloseTo(14 * 1.04);
    expect(reachOf(columns, 'films')).toBeCloseTo(7.5 * 1.04);
    expect(reachOf(columns, 'films', 20)).toBeCloseTo(20 * 1.04);
    expect(reachOf([], 'films')).toBeCloseTo(2 * 1.04);
    const fixed = SCALES.filter((scale) => /^\d+$/.test(scale));
    expect(fixed.length).toBeGreaterThan(2);
    for (const scale of fixed) expect(reachOf(columns, scale)).toBe(Number(scale));
  });

  test('puts no film on the skin line and the most at the top', () => {
    const frame = frameOf(columns, 20, 200, true);
    expect(yOf(frame, 0)).toBe(frame.top + frame.plot);
    expect(yOf(frame, 20)).toBe(frame.top);
    expect(frame.width).toBeGreaterThan((columns.at(-1)?.x ?? 0) + COLUMN);
    expect(frame.height - frameOf(columns, 20, 200, false).height).toBe(NAMES - 3);
  });
});

describe('ghosts', () => {
  test('are drawn on the cell of the sculpting they tell of, never below nothing', () => {
    const steps = [step('s1', 'shade', ['chin']), step('s2', 'foundation', ['chin'])];
    const film = [
      [0, 0, 3],
      [0, 0, 4],
    ];
    const powder = [
      [0, 0, 0],
      [0, 0, 0],
    ];
    const rows = [
      { zone: 'chin', kind: 'shade', percent: 41.6 },
      { zone: 'nose_tip', kind: 'light', percent: 30 },
    ];
    const sculpted = plan({ steps, film, powder, dusted: [], read_through: rows as never });
    const cells = cellsOf(sculpted, ZONES, ZONES, 1);
    const ghosts = ghostsOf(sculpted, columns, cells);
    expect(ghosts.map((ghost) => [ghost.column.zone, ghost.cell.stepId, ghost.percent])).toEqual([
      ['chin', 's1', 42],
    ]);
    const lost = plan({ ...sculpted, read_through: [{ ...rows[0], percent: -3 }] as never });
    expect(ghostsOf(lost, columns, cells)[0]?.percent).toBe(0);
  });
});

describe('arrow keys', () => {
  test('go up and down the layers of a column and stop at its ends', () => {
    const at = { zone: 1, step: 0 };
    expect(walked(at, 'ArrowUp', columns, finished)).toEqual({ zone: 1, step: 1 });
    expect(walked({ zone: 1, step: 1 }, 'ArrowUp', columns, finished)).toEqual({ zone: 1, step: 1 });
    expect(walked(at, 'ArrowDown', columns, finished)).toEqual(at);
  });

  test('go sideways to the layer at the same place in the order, or to the top', () => {
    expect(walked({ zone: 1, step: 1 }, 'ArrowLeft', columns, finished)).toEqual({ zone: 0, step: 0 });
    expect(walked({ zone: 0, step: 0 }, 'ArrowLeft', columns, finished)).toEqual({ zone: 0, step: 0 });
    expect(walked({ zone: 2, step: 0 }, 'ArrowRight', columns, finished)).toEqual({ zone: 2, step: 0 });
  });

  test('begin at the first column, and leave other keys alone', () => {
    expect(walked(null, 'ArrowRight', columns, finished)).toEqual({ zone: 0, step: 0 });
    expect(walked(null, 'Enter', columns, finished)).toBeNull();
  });
});

describe('carrying', () => {
  test('puts a cell over the layers of its column whose middle is lower', () => {
    const [low, high] = finished.filter((cell) => cell.zone === 'nose_tip');
    if (!low || !high) throw new Error('two layers on the nose');
    expect(placeAt(low, 0.1, finished)).toBe(0);
    expect(placeAt(low, 7, finished)).toBe(2);
    expect(placeAt(high, 0.1, finished)).toBe(0);
    expect(placeAt(high, 7, finished)).toBe(1);
  });

  test('shows how high a held step would lie on each of its zones', () => {
    const held = shown.steps[1];
    if (!held) throw new Error('a bake');
    expect(dropsOf(shown, held, 's1', columns, finished)).toEqual([
      { zone: 'nose_tip', x: COLUMN + GAP, um: 0 },
    ]);
    expect(dropsOf(shown, held, null, columns, finished)).toEqual([
      { zone: 'nose_tip', x: COLUMN + GAP, um: 4.5 },
    ]);
  });
});
