import type { Proportions, Zone } from '../../api/client';
import { words } from '../vocabulary.svelte';
import { placed } from './proportions';

/** The middle of a zone on this face, for a number or a step of the arrow keys. */
export function spot(zone: Zone, of: Proportions): [number, number] {
  const [x = 160, y = 200] = words.all?.anchors[zone] ?? [];
  return placed(x, y, of);
}

/** The nearest of the zones that way: nearness along the way counts, straying from it counts double. */
export function next(
  zone: Zone,
  [right, down]: readonly [number, number],
  zones: readonly Zone[],
  of: Proportions,
): Zone {
  const [fromX, fromY] = spot(zone, of);
  let best: [number, Zone] = [Infinity, zone];
  for (const other of zones) {
    const [x, y] = spot(other, of);
    const along = (x - fromX) * right + (y - fromY) * down;
    const aside = Math.abs((x - fromX) * down) + Math.abs((y - fromY) * right);
    const far = along + 2 * aside;
    if (other !== zone && along > 3 && far < best[0]) best = [far, other];
  }
  return best[1];
}
