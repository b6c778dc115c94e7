import type { Zone } from '../../api/client';
import { words } from '../vocabulary.svelte';

/** Colours of a face by zone, as the core computed them. */
export type Colours = Readonly<Record<string, string>>;

const UNTOLD = '#808080';

/** Colours that come as a list, in the order of the vocabulary's zones. */
export function inOrder(colours: readonly string[]): Colours {
  return Object.fromEntries((words.all?.zones ?? []).map((zone, at) => [zone.id, colours[at] ?? UNTOLD]));
}

/** The colours of bare skin as read. */
export function asRead(zones: readonly { zone: Zone; hex: string }[]): Colours {
  return Object.fromEntries(zones.map(({ zone, hex }) => [zone, hex]));
}
