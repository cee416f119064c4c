import { type Expectation } from '../model/change';
import { isInPlaces } from '../measures/registry';
import { percentChange, placesGained } from '../words/format';
import type { Reading } from './readingModel';

/** Whether a change reached what was expected of it. */
export type Outcome = 'met' | 'not-met' | 'cannot-be-told';

export const OUTCOME_NAMES: Record<Outcome, string> = {
  met: 'met',
  'not-met': 'not met',
  'cannot-be-told': 'cannot be told',
};

/**
 * An outcome in words.
 *
 * @example
 * outcomeText('cannot-be-told', { metric: 'ctr', direction: 'up', amount: 0.25, reviewDay: null })
 * // "not certain it reached +25%"
 */
export function outcomeText(outcome: Outcome, expectation: Expectation): string {
  return outcome === 'cannot-be-told'
    ? `not certain it reached ${expectedText(expectation)}`
    : OUTCOME_NAMES[outcome];
}

/**
 * Compares the net effect of a reading with its expected result, on the expected metric and
 * independent of the verdict: met if the low end of the range reaches it, not met if the high end
 * doesn’t. Null if nothing was expected, or the reading isn’t complete. A direction without an
 * amount is met by a lift in that direction.
 */
export function outcomeOf({ change, spans, net }: Reading): Outcome | null {
  const { expectation } = change;
  if (!expectation || !spans.complete) return null;
  const { metric } = expectation;
  const effect = net?.[metric];
  if (!effect) return 'cannot-be-told';
  const up = expectation.direction === 'up';
  const signed = (expectation.amount ?? 0) * (up ? 1 : -1);
  const wanted = isInPlaces(metric) ? signed : 1 + signed;
  const reached = (value: number) => (up ? value >= wanted : value <= wanted);
  if (reached(effect.low) && reached(effect.high)) return 'met';
  return reached(effect.low) || reached(effect.high) ? 'cannot-be-told' : 'not-met';
}

/**
 * The expected amount with sign and unit.
 *
 * @example
 * expectedText({ metric: 'ctr', direction: 'up', amount: 0.25, reviewDay: null }) // "+25%"
 */
export function expectedText({ metric, direction, amount }: Expectation): string {
  if (amount === null) return direction;
  if (isInPlaces(metric)) return placesGained(direction === 'up' ? amount : -amount);
  return percentChange(direction === 'up' ? 1 + amount : 1 - amount).replace(/\.0%$/, '%');
}
