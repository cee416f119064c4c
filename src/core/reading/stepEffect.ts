/* What recording a step would do to the reading of a change, said before it is recorded. */

import type { Day } from '../calendar/day';
import { changeSpans } from '../calendar/span';
import { settlingUntilCrawled, type Step, type SteppedChange } from '../model/steps';
import { spanText } from '../words/format';

/** The spans that a change is read over when nothing else is asked for. */
export type UsualSpans = { readonly windowDays: number; readonly settlingDays: number };

/**
 * One sentence on how the reading changes when a step gets a day (null removes the step), recorded
 * today.
 *
 * @example stepEffect(change, 'crawled', today, today, usual)
 * // "The days after the change ended on 8 Nov. The reading stays as it is."
 */
export function stepEffect(
  change: SteppedChange,
  step: Step,
  day: Day | null,
  today: Day,
  { windowDays, settlingDays }: UsualSpans,
): string {
  const then = withStep(change, step, day, today);
  const spansOf = (one: SteppedChange) =>
    changeSpans(one.day, windowDays, settlingUntilCrawled(settlingDays, windowDays, one));
  const [was, will] = [spansOf(change).after, spansOf(then).after];
  if (was.firstDay !== will.firstDay)
    return `The after span moves from ${spanText(was)} to ${spanText(will)}.`;
  const usual = changeSpans(change.day, windowDays, settlingDays).after;
  if (step === 'crawled' && day !== null && today > usual.lastDay)
    return `The days after the change ended on ${spanText({ ...usual, firstDay: usual.lastDay })}. The reading stays as it is.`;
  return 'The reading stays as it is.';
}

function withStep(change: SteppedChange, step: Step, day: Day | null, today: Day): SteppedChange {
  return {
    day: step === 'made' ? (day ?? change.day) : change.day,
    steps: { ...change.steps, [step]: day ?? undefined },
    recorded: { ...change.recorded, [step]: day === null ? undefined : today },
  };
}
