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

/** What decides how many days after a change are skipped: its day and its steps, with when they were recorded. */
export type SteppedChange = {
  readonly day: Day;
  readonly steps: StepDays;
  /** The day on which each step was recorded; absent where that is not known. */
  readonly recorded?: StepDays;
};

/**
 * Number of days to skip after a change: `usual`, or up to the day on which the page was crawled
 * again, since nothing can show before that.
 *
 * A crawl counts only when it was recorded while the usual after span was still running. A finished
 * reading keeps its spans, whatever is recorded later.
 *
 * @param usual settling days of the change, else of the site
 * @param windowDays days of the after span
 * @example settlingUntilCrawled(3, 28, { day, steps: { crawled: addDays(day, 9) } }) // 9
 */
export function settlingUntilCrawled(
  usual: number,
  windowDays: number,
  { day, steps: { crawled }, recorded }: SteppedChange,
): number {
  if (crawled === undefined) return usual;
  const lastDay = day + usual + windowDays - 1;
  const noted = Math.max(crawled, recorded?.crawled ?? crawled);
  return noted > lastDay ? usual : Math.max(usual, crawled - day);
}
