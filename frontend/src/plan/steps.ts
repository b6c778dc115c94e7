import type { Motion, Portion, Step, Tool, Workbench, Zone } from '../api/client';

/** What screens ask of a step: reading only, nothing here judges. */

/** Every zone of a step once, in the order of its portions. */
export function zonesOf(step: Step): Zone[] {
  return [...new Set(step.portions.flatMap((portion) => portion.zones ?? []))];
}

/** The item with the largest share of the mix; null for work without product. */
export function itemOf(step: Step): string | null {
  const parts = [...(step.mix ?? [])];
  parts.sort((one, other) => (other.share ?? 1) - (one.share ?? 1));
  return parts[0]?.item ?? null;
}

/** Whether two steps take the same items in the same shares. */
export function sameMix(one: Step, other: Step): boolean {
  const told = (step: Step) => (step.mix ?? []).map((part) => `${part.item} ${part.share ?? 1}`).join('+');
  return told(one) === told(other);
}

/** The names of what a step takes, joined as in speech. */
export function namesOf(step: Step, products: Workbench['products']): string {
  return (step.mix ?? []).map((part) => products[part.item]?.name ?? part.item).join(' and ');
}

export function unitWords(step: Step): string {
  return step.unit === 'mg_cm2' ? 'mg/cm²' : 'µm';
}

/** Every tool with its motion once, the second tool last. */
export function handsOf(step: Step): { tool: Tool | null; motion: Motion | null }[] {
  const all = [...step.portions, ...(step.then ? [step.then] : [])];
  const hands = all.map(({ tool, motion }) => ({ tool: tool ?? null, motion: motion ?? null }));
  return hands.filter(
    (hand, place) =>
      (hand.tool || hand.motion) &&
      hands.findIndex((each) => each.tool === hand.tool && each.motion === hand.motion) === place,
  );
}

/** The hand that works a zone. */
export function handOn(step: Step, zone: Zone): Portion | undefined {
  return step.portions.find((portion) => portion.zones?.includes(zone));
}

/** Seconds of work, without waits. */
export function activeOf(step: Step): number {
  const worked = step.portions.reduce((sum, portion) => sum + (portion.active_s ?? 15), 0);
  return worked + (step.then ? (step.then.active_s ?? 15) : 0);
}
