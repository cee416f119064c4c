import { isInPlaces } from '../model/change';
import type { Reading } from './model';

/** Whether what was expected of a change came true, as far as it can be told. */
export type Outcome = 'met' | 'not-met' | 'cannot-be-told';

export const OUTCOME_NAMES: Record<Outcome, string> = {
  met: 'met',
  'not-met': 'not met',
  'cannot-be-told': 'cannot be told',
};

/**
 * Holds the net effect of a reading against its expectation: met where even the low end of its range reaches it, not met
 * where even the high end does not, and cannot be told in between. Null where nothing was expected or the reading is not
 * complete. A direction without an amount is met by a lift in that direction.
 */
export function outcomeOf({ change, spans, net, judged }: Reading): Outcome | null {
  const { expectation } = change;
  if (!expectation || !spans.complete) return null;
  const effect = net?.[judged];
  if (!effect) return 'cannot-be-told';
  const up = expectation.direction === 'up';
  const signed = (expectation.amount ?? 0) * (up ? 1 : -1);
  const wanted = isInPlaces(judged) ? signed : 1 + signed;
  const reached = (value: number) => (up ? value >= wanted : value <= wanted);
  if (reached(effect.low) && reached(effect.high)) return 'met';
  return reached(effect.low) || reached(effect.high) ? 'cannot-be-told' : 'not-met';
}
