import { addDays, type Day } from '../../core/calendar/day';
import type { Span } from '../../core/calendar/span';
import type { SubjectDays } from '../../core/history/subjectDays';
import type { PageRef } from '../../core/model/change';
import { commonPart, tellingWords, wordsOf } from '../../core/words/common';
import type { Db } from '../../store/database';
import { queryTotalsIn } from '../../store/figures/queries';
import { mostAlike, namedGroups } from '../../store/figures/movingGroups';
import type { Engines } from '../site/engines';
import type { SiteContext } from '../site/siteContext';

/** Days of a group's figures that are shown. */
const SHOWN_DAYS = 182;
/** Days of queries that a group is named by. */
const NAMING_DAYS = 56;

/** Pages that move together. */
export type MovingGroup = {
  /** Its number, 0 for those that move with too few others. */
  readonly number: number;
  /** As it was named, else by what its addresses have in common. */
  readonly name: string;
  readonly named: boolean;
  readonly pages: readonly PageRef[];
  /** The part of the site with more than half of them, and query words characteristic of them. */
  readonly mostly: string | null;
  readonly words: readonly string[];
  readonly days: SubjectDays;
};

/** The groups of a site, and whether they were learned from movement, or are stated or by path. */
export type MovingGroups = { readonly learned: boolean; readonly groups: readonly MovingGroup[] };

/** Which pages move with which, as known on the newest day; null where the site has no figures. */
export function movingGroups({ db, site, known }: SiteContext, engines: Engines): MovingGroups | null {
  if (!known) return null;
  const { lastReadable } = known;
  const engine = engines.engine(site, known);
  if (!engine) return null;
  const { learned, groups } = engine.groupsAt(addDays(lastReadable, 1));
  const named = namedGroups(db, site.id);
  const shown = {
    firstDay: Math.max(engine.history.firstDay, addDays(lastReadable, 1 - SHOWN_DAYS)) as Day,
    lastDay: lastReadable,
  };
  const recent = { firstDay: addDays(lastReadable, 1 - NAMING_DAYS), lastDay: lastReadable };
  const words = tellingWords(groups.map((ids) => queryWordsOf(db, ids, recent)));
  const found = groups.flatMap((ids, number): MovingGroup[] => {
    if (ids.length === 0) return [];
    const pages = engines.pages(site, ids);
    const addresses = pages.map(({ address }) => address);
    const mostly = commonPart(addresses);
    const given = mostAlike(named, ids);
    return [
      {
        ...{ number, pages, mostly, words: words[number]!, named: given !== null },
        name: given?.name ?? nameOf(learned && number === 0, number, mostly, words[number]!),
        days: daysOf(engine.history, ids, shown),
      },
    ];
  });
  // Those that move with none come last.
  const alone = (group: MovingGroup) => Number(learned && group.number === 0);
  return { learned, groups: found.sort((a, b) => alone(a) - alone(b) || b.pages.length - a.pages.length) };
}

/** Impressions by the words of the queries for which some pages were shown. */
function queryWordsOf(db: Db, ids: readonly number[], span: Span): Map<string, number> {
  const words = new Map<string, number>();
  const before = { firstDay: addDays(span.firstDay, -1), lastDay: addDays(span.firstDay, -1) };
  for (const { query, after } of queryTotalsIn(db, ids, before, span) ?? []) {
    for (const word of wordsOf(query)) words.set(word, (words.get(word) ?? 0) + (after?.impressions ?? 0));
  }
  return words;
}

function nameOf(alone: boolean, number: number, mostly: string | null, words: readonly string[]): string {
  if (alone) return 'With no others';
  const said = [mostly, words.join(' and ')].filter(Boolean);
  return said.length > 0 ? said.join(', ') : `Group ${number}`;
}

function daysOf(
  history: NonNullable<ReturnType<Engines['engine']>>['history'],
  ids: readonly number[],
  shown: Span,
): SubjectDays {
  const rows = ids.flatMap((id) => history.row(id) ?? []);
  const days: SubjectDays & Record<'clicks' | 'impressions' | 'appeal' | 'position', (number | null)[]> = {
    ...{ shown, clicks: [], impressions: [], appeal: [], position: [] },
  };
  for (let day = shown.firstDay; day <= shown.lastDay; day = addDays(day, 1)) {
    const span = { firstDay: day, lastDay: day };
    const week = { firstDay: addDays(day, -6), lastDay: day };
    let [clicks, impressions, positionSum, positionWeight, inWeek] = [0, 0, 0, 0, 0];
    for (const row of rows) {
      const one = history.totals(row, span);
      clicks += one.clicks;
      impressions += one.impressions;
      positionSum += one.positionSum;
      positionWeight += one.positionWeight;
      inWeek += history.totals(row, week).clicks;
    }
    const known = history.covered(span) > 0;
    const expected = history.expectedOf(ids, week) ?? 0;
    days.clicks.push(known ? clicks : null);
    days.impressions.push(known ? impressions : null);
    days.position.push(known && positionWeight > 0 ? positionSum / positionWeight : null);
    days.appeal.push(known && expected > 0 ? inWeek / expected : null);
  }
  return days;
}
