import type { Change } from '../../core/model/change';
import { daysByReview, foresight } from '../../core/reading/foresight';
import type { Engines } from '../site/engines';
import { readChange } from './readChange';
import type { SiteContext } from '../site/siteContext';

const LONGEST_SPAN = 364;

/**
 * A sentence on whether the pages of a change being drafted could show its expected result by its
 * review; null if nothing is expected, or not by a day.
 */
export function foresightOf(context: SiteContext, engines: Engines, thought: Change): string | null {
  const { site } = context;
  const { day, expectation, settlingDays } = thought;
  if (!expectation || expectation.reviewDay === null) return null;
  const settling = settlingDays ?? site.settlingDays;
  const days = daysByReview(day, expectation.reviewDay, settling, site.provisionalDays);
  if (days < 7) return foresight(null, days, expectation.reviewDay);
  const { wait } = readChange(context, engines, thought, { windowDays: Math.min(days, LONGEST_SPAN) });
  return foresight(wait, Math.min(days, LONGEST_SPAN), expectation.reviewDay);
}
