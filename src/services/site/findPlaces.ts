import { pagePath } from '../../core/address/address';
import { normaliseQuery } from '../../core/intake/rowReader';
import { findRank, wordsOf } from '../../core/words/find';
import { datedSpan, mediumDay } from '../../core/words/format';
import { listPages } from '../../store/addresses/pages';
import { pagesWithFigures } from '../../store/figures/series';
import { listReports } from '../../store/reports/reports';
import { listRounds } from '../../store/rounds/rounds';
import { queriesLike } from '../../store/figures/queryIds';
import type { SiteContext } from './siteContext';

/** Something of a site that can be gone to, and how well it fits what was typed (0 is best). */
export type Found = {
  readonly kind: 'page' | 'query' | 'change' | 'event' | 'round' | 'report';
  readonly id: number;
  readonly name: string;
  readonly detail: string;
  readonly rank: number;
};

const WITHOUT_FIGURES = 'page without search figures';
/** By so much such a page comes after one that fits as well. */
const BEHIND = 0.5;

/** So many of each kind, so that one kind does not push out the others; and so many in all. */
const [MOST_OF_A_KIND, MOST] = [8, 20];
const MOST_QUERIES_LOOKED_AT = 400;

/** Pages, queries, changes, events, experiments and reports that match typed text, best first. */
export function findPlaces(context: SiteContext, typed: string): Found[] {
  if (wordsOf(typed).length === 0) return [];
  const { db, site, changes, events } = context;
  const ranked = (found: readonly Omit<Found, 'rank'>[]): Found[] =>
    found
      .flatMap((one) => {
        const rank = rankOf(typed, one);
        return rank === null ? [] : [{ ...one, rank }];
      })
      .sort((a, b) => a.rank - b.rank)
      .slice(0, MOST_OF_A_KIND);
  const known = pagesWithFigures(db, site.id);
  const pages = listPages(db, site.id).map(({ id, address }) => ({
    ...{ kind: 'page' as const, id, name: pagePath(address) },
    detail: known.has(id) ? 'page' : WITHOUT_FIGURES,
  }));
  const queries = queriesLike(db, site.id, normaliseQuery(typed), MOST_QUERIES_LOOKED_AT).map(
    ({ id, text }) => ({
      ...{ kind: 'query' as const, id, name: text, detail: 'query' },
    }),
  );
  return [
    ...ranked(pages),
    ...ranked(
      changes.map(({ id, title, day }) => ({
        ...{ kind: 'change' as const, id, name: title, detail: `change, ${mediumDay(day)}` },
      })),
    ),
    ...ranked(
      events.map(({ id, name, firstDay }) => ({
        ...{ kind: 'event' as const, id, name, detail: `event, ${mediumDay(firstDay)}` },
      })),
    ),
    ...ranked(
      listRounds(db, site.id).map(({ id, name, day }) => ({
        ...{ kind: 'round' as const, id, name, detail: `experiment, ${mediumDay(day)}` },
      })),
    ),
    ...ranked(
      listReports(db, site.id).map(({ id, title, firstDay, lastDay }) => ({
        ...{
          kind: 'report' as const,
          id,
          name: title,
          detail: `report, ${datedSpan({ firstDay, lastDay })}`,
        },
      })),
    ),
    ...ranked(queries),
  ]
    .sort((a, b) => a.rank - b.rank)
    .slice(0, MOST);
}

/**
 * Rank of a place. Pages also match by the last part of their path. Queries come after equal
 * matches: there are many.
 */
function rankOf(typed: string, { kind, name, detail }: Omit<Found, 'rank'>): number | null {
  const whole = findRank(typed, name, detail);
  const last = kind === 'page' ? findRank(typed, name.split('/').filter(Boolean).at(-1) ?? '') : null;
  const rank = whole === null || last === null ? (whole ?? last) : Math.min(whole, last);
  if (rank === null) return null;
  return rank + (kind === 'query' ? 2 : detail === WITHOUT_FIGURES ? BEHIND : 0);
}
