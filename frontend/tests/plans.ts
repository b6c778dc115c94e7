import type { Step, Vocabulary, Workbench, Zone } from '../src/api/client';

/** Plans small enough to read in a test; what a test does not name is empty. */

export function step(id: string, kind: Step['kind'], zones: Zone[], more: Partial<Step> = {}): Step {
  return { id, kind, portions: [{ zones, amount: 2, patch: 1, active_s: 20 }], ...more } as Step;
}

export const ZONES = [
  { id: 'forehead_centre', region: 'forehead', words: 'the middle of the forehead' },
  { id: 'nose_tip', region: 'nose', words: 'the tip of the nose' },
  { id: 'chin', region: 'mouth', words: 'the chin' },
] as Vocabulary['zones'];

/** Three zones, a foundation on all, a bake on the nose that the third step dusts off. */
export function plan(more: Partial<Workbench> = {}): Workbench {
  return {
    id: 'p1',
    revision: 1,
    light: 'daylight',
    steps: [
      step('s1', 'foundation', ['forehead_centre', 'nose_tip', 'chin']),
      step('s2', 'bake', ['nose_tip']),
      step('s3', 'dust_off', ['nose_tip']),
    ],
    film: [
      [3, 4.5, 3],
      [0, 0, 0],
      [0, 0, 0],
    ],
    powder: [
      [0, 0, 0],
      [0, 0.3, 0],
      [0, 0, 0],
    ],
    dusted: [{ step: 1, zone: 'nose_tip', laid_mg_cm2: 0.8, until: 2 }],
    powder_um_per_mg: 10,
    stages: [
      ['#100000', '#200000', '#300000'],
      ['#110000', '#210000', '#310000'],
      ['#110000', '#220000', '#310000'],
      ['#110000', '#230000', '#310000'],
    ],
    forecast: {
      forehead_centre: { limit_um: 14, load_um: 3 },
      nose_tip: { limit_um: 12, load_um: 7.5 },
      chin: { limit_um: 13, load_um: 3 },
    },
    read_through: [],
    findings: [],
    undo_says: null,
    redo_says: null,
    ...more,
  } as unknown as Workbench;
}
