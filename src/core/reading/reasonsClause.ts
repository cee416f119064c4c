import { count, metricValue, percentChange } from '../words/format';
import type { Reading } from './readingModel';

/** Shares of all movement from which a reason is named as the whole of it, and as most of it. */
const NEARLY_ALL = 0.8;
const MOST = 0.55;
/** Clicks that moved less than this in all are not worth an explanation. */
const FEWEST_CLICKS = 5;

const MEANING = {
  reach: { up: 'shown more often', down: 'shown less often' },
  rank: { up: 'standing higher in the results', down: 'standing lower in the results' },
  appeal: {
    up: 'shown as often and at much the same rank, and chosen more',
    down: 'shown as often and at much the same rank, and chosen less',
  },
} as const;

/**
 * Why clicks changed, in a sentence. A CTR fall that is only wider exposure comes first. Empty if
 * there is nothing to say.
 */
export function reasonsClause(reading: Reading): string {
  return [exposureClause(reading), reading.widerExposure ? '' : mainReason(reading)]
    .filter(Boolean)
    .join(' ');
}

function exposureClause({ widerExposure, metrics }: Reading): string {
  if (!widerExposure) return '';
  const { ctr, impressions } = metrics;
  return `CTR fell from ${metricValue('ctr', ctr.before)} to ${metricValue('ctr', ctr.after)} because the page is shown for many more searches (impressions ${percentChange(impressions.ratio)}), not because it is chosen less.`;
}

function mainReason({ reasons }: Reading): string {
  if (!reasons) return '';
  const names = ['reach', 'rank', 'appeal'] as const;
  const all = names.reduce((sum, name) => sum + Math.abs(reasons[name]), Math.abs(reasons.unseen));
  if (all < FEWEST_CLICKS || Math.abs(reasons.total) < 1) return '';
  const first = names.reduce((a, b) => (Math.abs(reasons[b]) > Math.abs(reasons[a]) ? b : a));
  const part = Math.abs(reasons[first]) / all;
  // A reason that pulls against the difference does not explain it.
  if (part < MOST || reasons[first] * reasons.total <= 0) return '';
  const sign = reasons.total > 0 ? '+' : '\u2212';
  const difference = `${sign}${count(Math.abs(reasons.total))} clicks`;
  const amount = part >= NEARLY_ALL ? 'Nearly all' : 'Most';
  return `${amount} of the raw ${difference} is ${first}: ${MEANING[first][reasons[first] > 0 ? 'up' : 'down']}.`;
}
