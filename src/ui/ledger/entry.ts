import type { Day } from '@/core/calendar/day';
import { metricDifference, metricValue, percentChange, shortDay } from '@/core/words/format';
import type { Reading, Verdict } from '@/core/reading/model';
import { changeKindName } from '@/core/model/change';
import { pagePath } from '@/core/address/address';

/** One line of the ledger: a change and the gist of its reading. */
export type LedgerEntry = {
  readonly id: number;
  readonly day: Day;
  readonly title: string;
  readonly kind: string;
  readonly where: string;
  readonly verdict: Verdict;
  readonly clicksBefore: number | null;
  readonly clicksAfter: number | null;
  readonly clicksRatio: number | null;
  readonly completeOn: Day | null;
  readonly cautions: number;
  /** Everything by which the line can be found, in lower case. */
  readonly words: string;
};

/** The line of the ledger for a reading. */
export function ledgerEntry(reading: Reading): LedgerEntry {
  const { change, metrics } = reading;
  const paths = change.pages.map((page) => pagePath(page.address));
  return {
    id: change.id,
    day: change.day,
    title: change.title,
    kind: change.kind,
    where: paths.length === 1 ? (paths[0] ?? '') : `${paths.length} pages`,
    verdict: reading.verdict,
    clicksBefore: metrics.clicks.before,
    clicksAfter: metrics.clicks.after,
    clicksRatio: metrics.clicks.ratio,
    completeOn: reading.spans.completeOn,
    cautions: reading.cautions.length,
    words: [
      change.title,
      changeKindName(change.kind),
      change.person,
      change.note,
      ...paths,
      ...change.queries,
    ]
      .join(' ')
      .toLowerCase(),
  };
}

export const SORTS = {
  newest: 'newest first',
  oldest: 'oldest first',
  rise: 'largest rise first',
  fall: 'largest fall first',
} as const;
export type Sort = keyof typeof SORTS;

export const STATES = {
  any: 'any state',
  complete: 'complete',
  waiting: 'waiting',
  none: 'without figures',
} as const;
export type State = keyof typeof STATES;

export type LedgerFilter = {
  readonly q: string;
  readonly kind: string;
  readonly state: State;
  readonly sort: Sort;
};

const STATE_OF: Record<Verdict, State> = {
  'raw-change': 'complete',
  waiting: 'waiting',
  'no-figures': 'none',
};

/** The lines that a filter leaves, in its order. Lines without a ratio come last when sorted by it. */
export function filterLedger(entries: readonly LedgerEntry[], filter: LedgerFilter): LedgerEntry[] {
  const words = filter.q.toLowerCase().split(/\s+/).filter(Boolean);
  const left = entries.filter(
    (e) =>
      (filter.kind === 'any' || e.kind === filter.kind) &&
      (filter.state === 'any' || STATE_OF[e.verdict] === filter.state) &&
      words.every((word) => e.words.includes(word)),
  );
  const byRatio = (sign: 1 | -1) => (a: LedgerEntry, b: LedgerEntry) => {
    if (a.clicksRatio === null || b.clicksRatio === null)
      return Number(a.clicksRatio === null) - Number(b.clicksRatio === null);
    return sign * (a.clicksRatio - b.clicksRatio);
  };
  switch (filter.sort) {
    case 'oldest':
      return left.reverse();
    case 'rise':
      return left.sort(byRatio(-1));
    case 'fall':
      return left.sort(byRatio(1));
    default:
      return left;
  }
}

/** From nothing there is no percentage, and the clicks themselves say how far it went. */
function movement({ clicksBefore, clicksAfter, clicksRatio }: LedgerEntry): string {
  if (clicksRatio !== null) return percentChange(clicksRatio);
  const known = clicksBefore !== null && clicksAfter !== null;
  return metricDifference('clicks', known ? clicksAfter - clicksBefore : null);
}

/** The gist at the right of a line: a word or figure, and what stands under it. */
export function gist(entry: LedgerEntry): { main: string; under: string } {
  const counts = `${metricValue('clicks', entry.clicksBefore)} → ${metricValue('clicks', entry.clicksAfter)}`;
  switch (entry.verdict) {
    case 'waiting':
      return {
        main: 'waiting',
        under: entry.completeOn ? `until ${shortDay(entry.completeOn)}` : 'for figures',
      };
    case 'no-figures':
      return { main: 'no figures', under: 'for these days' };
    case 'raw-change':
      return { main: movement(entry), under: counts };
  }
}
