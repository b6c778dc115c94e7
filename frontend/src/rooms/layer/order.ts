/** The order of steps as its list shows it. */
import type { Step, Workbench } from '../../api/client';
import { activeOf, unitWords } from '../../plan/steps';

/** Steps in a row of one chapter, from which place on, and the minutes that they take, waits included. */
export interface Chapter {
  words: string;
  first: number;
  steps: Step[];
  minutes: number;
}

export function chaptersOf(plan: Workbench): Chapter[] {
  const found: Chapter[] = [];
  plan.steps.forEach((step, index) => {
    if (plan.chapters[index] !== plan.chapters[index - 1] || !found.length) {
      const words = (plan.chapters[index] ?? '').replace(/^./, (first) => first.toUpperCase());
      found.push({ words, first: index, steps: [], minutes: 0 });
    }
    found.at(-1)?.steps.push(step);
  });
  for (const chapter of found) {
    const seconds = chapter.steps.reduce((sum, step) => sum + activeOf(step) + (step.wait_s ?? 0), 0);
    chapter.minutes = Math.max(1, Math.round(seconds / 60));
  }
  return found;
}

/** What a step lays, from its least portion to its most. */
export function amountWords(step: Step): string {
  const amounts = step.portions.map((portion) => portion.amount ?? 0);
  if (!step.unit || !amounts.length) return '';
  const [least, most] = [Math.min(...amounts), Math.max(...amounts)];
  return `${least === most ? '' : `${least}–`}${most} ${unitWords(step)}`;
}

export function waitWords(seconds: number): string {
  return seconds >= 120 ? `${Math.round(seconds / 60)} min` : `${Math.round(seconds)} s`;
}

/** The steps that findings name together with this one, by their ids; findings that were accepted are quiet. */
export function clashing(plan: Workbench, step: Step): string[] {
  const others = plan.findings
    .filter((finding) => !finding.accepted)
    .flatMap(({ steps, against = [] }) => [
      ...(steps.includes(step.id) ? against : []),
      ...(against.includes(step.id) ? steps : []),
    ]);
  return [...new Set(others)].filter((id) => id !== step.id);
}
