import { z } from 'zod';
import type { Day } from '../calendar/day';
import { isoDaySchema, optionalText } from './fields';

/** What happens to a change from plan to decision, in the order in which it usually does. None is forced. */
export const STEPS = [
  'planned',
  'made',
  'reindex-requested',
  'crawled',
  'seen-in-results',
  'reviewed',
  'decided',
] as const;
export type Step = (typeof STEPS)[number];

export const STEP_NAMES: Record<Step, string> = {
  planned: 'planned',
  made: 'made',
  'reindex-requested': 'reindex requested',
  crawled: 'crawled again',
  'seen-in-results': 'seen in results',
  reviewed: 'reviewed',
  decided: 'decided',
};

/** The day of each step that was taken. */
export type StepDays = Readonly<Partial<Record<Step, Day>>>;

/** What was decided of a change, and why. */
export const DECISIONS = { keep: 'Keep', undo: 'Revert', rework: 'Rework' } as const;
export type Decision = {
  readonly decision: keyof typeof DECISIONS;
  readonly reason: string | null;
};

/** A step to be recorded; what was decided is recorded as a decision. */
export const newStepSchema = z.strictObject({
  step: z.enum(STEPS.filter((step) => step !== 'decided') as [Exclude<Step, 'decided'>]),
  day: isoDaySchema.nullable().meta({ description: 'Null takes the step back.' }),
});
export type NewStep = z.infer<typeof newStepSchema>;

export const newDecisionSchema = z.strictObject({
  decision: z
    .enum(Object.keys(DECISIONS) as [keyof typeof DECISIONS])
    .nullable()
    .meta({
      description: 'Null takes the decision back.',
    }),
  reason: optionalText(2000),
  day: isoDaySchema,
});
export type NewDecision = z.infer<typeof newDecisionSchema>;

/** Whether a change has been made: it was, unless it was only planned and nobody has said so yet. */
export function isMade({ steps }: { readonly steps: StepDays }): boolean {
  return steps.planned === undefined || steps.made !== undefined;
}

/**
 * Days to leave out after a change made on `day`: as many as are usual, and up to the day on which the page was crawled
 * again, where that is known. Before the crawl nothing could have changed.
 */
export function settlingUntilCrawled(usual: number, day: Day, { crawled }: StepDays): number {
  return crawled === undefined ? usual : Math.max(usual, crawled - day);
}
