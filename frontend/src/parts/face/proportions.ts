import type { Proportions } from '../../api/client';

/** Drawing the face map in a sitter's own proportions: every point of a path is moved; eyes and ears stay where they are. */

const MIDDLE = 160;
const EYES = 175;

export const USUAL: Proportions = {
  length: 1,
  jaw: 1,
  forehead: 1,
  brow_height: 1,
  nose: 1,
  eye_down: false,
  nose_leans: 0,
  hair: 'short',
  covered: [],
};

function between(y: number, from: number, to: number, a: number, b: number): number {
  const share = Math.min(1, Math.max(0, (y - from) / (to - from)));
  return a + (b - a) * share;
}

/** Where a point of the sheet lies on this face. */
export function placed(x: number, y: number, of: Proportions): [number, number] {
  const width = y < EYES ? between(y, 95, EYES - 10, of.forehead, 1) : between(y, EYES + 30, 280, 1, of.jaw);
  const tall = y < EYES ? of.length * of.brow_height : of.length;
  const off = x - MIDDLE;
  // The nose is a narrow strip between eyes and mouth; it alone grows with its length, and leans.
  const nose = Math.abs(off) < 26 && y > EYES && y < 246 ? 1 - Math.abs(off) / 26 : 0;
  const lean = of.nose_leans * 4 * Math.sin((Math.PI * Math.min(1, Math.max(0, (y - EYES) / 55))) / 1) * nose;
  const longer = nose * (of.nose - 1) * Math.max(0, y - EYES) * 0.5;
  // An outer eye that turns down: a few units at the outer corner only.
  const down = of.eye_down && y > 160 && y < 200 ? between(Math.abs(off), 30, 66, 0, 4) : 0;
  return [MIDDLE + off * width + lean, EYES + (y - EYES) * tall + longer + down];
}

/** A stroke of the sheet as the points of a polyline on this face, shifted by so many units of the sheet. */
export function pointsOf(
  stroke: { points: number[][] },
  of: Proportions,
  [right, down]: readonly [number, number] = [0, 0],
): string {
  return stroke.points
    .map(([x = 0, y = 0]) => placed(x + right, y + down, of))
    .map(([x, y]) => `${x.toFixed(1)},${y.toFixed(1)}`)
    .join(' ');
}

/** A point on this face back on the sheet, near enough for pointing. */
export function onSheet(x: number, y: number, of: Proportions): [number, number] {
  let [sheetX, sheetY] = [x, y];
  for (let step = 0; step < 8; step += 1) {
    const [nowX, nowY] = placed(sheetX, sheetY, of);
    sheetX += x - nowX;
    sheetY += y - nowY;
  }
  return [sheetX, sheetY];
}

const PAIR = /(-?\d+(?:\.\d+)?)[ ,]+(-?\d+(?:\.\d+)?)/g;

/** A path whose coordinates are all absolute pairs, drawn on this face. */
export function drawn(path: string, of: Proportions, mirrored = false): string {
  return path.replace(PAIR, (_, left: string, top: string) => {
    const x = mirrored ? 2 * MIDDLE - Number(left) : Number(left);
    const [nowX, nowY] = placed(x, Number(top), of);
    return `${nowX.toFixed(1)} ${nowY.toFixed(1)}`;
  });
}
