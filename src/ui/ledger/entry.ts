import { MEASURE_NAMES } from '@/core/measures/registry';
import type { LedgerEntry } from '@/core/reading/ledgerEntry';
import type { Verdict } from '@/core/reading/readingModel';
import { shortDay } from '@/core/words/format';

export const SORTS = {
  newest: 'newest first',
  oldest: 'oldest first',
  verdict: 'by verdict',
  rise: 'largest rise first',
  fall: 'largest fall first',
} as const;
export type Sort = keyof typeof SORTS;

export const VERDICT_FILTERS = {
  any: 'any verdict',
  lifted: 'lifted',
  dropped: 'dropped',
  held: 'held',
  unclear: 'unclear',
  waiting: 'waiting',
  none: 'without figures',
} as const;
export type VerdictFilter = keyof typeof VERDICT_FILTERS;

export type LedgerFilter = {
  readonly q: string;
  readonly kind: string;
  readonly verdict: VerdictFilter;
  readonly sort: Sort;
};

const ORDER: readonly Verdict[] = ['lifted', 'dropped', 'held', 'unclear', 'waiting'];

/** Under which filter a line is found: one without figures is neither unclear nor anything else. */
function filterOf(entry: LedgerEntry): VerdictFilter {
  return entry.withoutFigures ? 'none' : entry.verdict;
}

/** The lines that a filter leaves, in its order. Lines without an effect come last when sorted by it. */
export function filterLedger(entries: readonly LedgerEntry[], filter: LedgerFilter): LedgerEntry[] {
  const words = filter.q.toLowerCase().split(/\s+/).filter(Boolean);
  const left = entries.filter(
    (e) =>
      (filter.kind === 'any' || e.kinds.includes(filter.kind)) &&
      (filter.verdict === 'any' || filterOf(e) === filter.verdict) &&
      words.every((word) => e.words.includes(word)),
  );
  // An interim effect must not stand among those that are complete.
  const settled = (e: LedgerEntry) => (e.verdict === 'waiting' ? null : e.height);
  const byHeight = (sign: 1 | -1) => (a: LedgerEntry, b: LedgerEntry) => {
    const [x, y] = [settled(a), settled(b)];
    if (x === null || y === null) return Number(x === null) - Number(y === null);
    return sign * (x - y);
  };
  switch (filter.sort) {
    case 'oldest':
      return left.reverse();
    case 'rise':
      return left.sort(byHeight(-1));
    case 'fall':
      return left.sort(byHeight(1));
    case 'verdict':
      return left.sort(
        (a, b) =>
          Number(a.withoutFigures) - Number(b.withoutFigures) ||
          ORDER.indexOf(a.verdict) - ORDER.indexOf(b.verdict) ||
          Math.abs(b.height ?? 0) - Math.abs(a.height ?? 0),
      );
    default:
      return left;
  }
}

/** What stands at the right of a line: a figure after the word of the verdict, and what stands under it. */
export function gist(entry: LedgerEntry): { figure: string; under: string } {
  if (entry.withoutFigures) return { figure: '', under: 'no figures for these days' };
  if (entry.verdict === 'waiting') {
    const until = entry.completeOn === null ? 'for figures' : `until ${shortDay(entry.completeOn)}`;
    if (entry.early) return { figure: '', under: `already ${entry.early.called}, ${until}` };
    return { figure: '', under: entry.planned ? 'planned' : until };
  }
  const metric = entry.judged === 'clicks' ? '' : `${MEASURE_NAMES[entry.judged]} `;
  // The word says which way; held and unclear have no way, and their range is the answer.
  const way = entry.verdict === 'lifted' || entry.verdict === 'dropped';
  const size = entry.effect.replace(/^[+\u2212]/, '').replace(/ (up|down)$/, '');
  return { figure: way ? size : '', under: metric + entry.range };
}
