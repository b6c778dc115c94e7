import type { Finding } from '../../api/client';

/** What tells findings apart in a list. */
export function keyOf(finding: Finding): string {
  return [finding.rule, ...finding.steps, ...finding.zones, finding.says].join(' ');
}

/** How a severity is shown: always a shape and a word, never colour alone. */
export const MARK: Record<Finding['severity'], { shape: string; words: string; plural: string }> = {
  stop: { shape: 'M5 0h6l5 5v6l-5 5H5l-5-5V5z', words: 'Stop', plural: 'Stops' },
  problem: { shape: 'M8 0l8 15H0z', words: 'Problem', plural: 'Problems' },
  advice: { shape: 'M8 0a8 8 0 1 1 0 16A8 8 0 0 1 8 0z', words: 'Advice', plural: 'Advice' },
};
