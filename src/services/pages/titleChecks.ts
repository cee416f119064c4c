import { siteToday } from '../../store/sites';
import { isoDay, type Day } from '../../core/calendar/day';
import { isSame, titleCheck, type DatedTitle, type TitleCheck } from '../../core/markup/titleCheck';
import { newTitleOf, type Change, type PageRef } from '../../core/model/change';
import { isMade } from '../../core/model/steps';
import { recordStep } from '../../store/ledger/changes';
import { changesOnPages, findChange } from '../../store/ledger/findChanges';
import type { Db } from '../../store/database';
import { lastSighting } from '../../store/evidence/sightings';
import { earlierTitles, titlesOf } from '../../store/evidence/snapshots';

/** The title on a page against the one in the results. */
export type PageTitles = {
  readonly page: PageRef;
  readonly onPage: DatedTitle | null;
  readonly inResults: DatedTitle | null;
  /** The title that the page should have by its last change; null where none gave it one. */
  readonly meant: string | null;
  readonly check: TitleCheck;
};

/** The title that a change gives a page: its own, or for an undo the one that it brings back. */
export function titleGiven(db: Db, change: Change, pageId: number): string | null {
  if (change.kind !== 'undo' || change.followsId === null) return newTitleOf(change, pageId);
  const undone = findChange(db, change.followsId, true);
  // Its texts stand in the order of those that it takes back.
  const parts = change.parts.map((part, i) => ({ ...part, kind: undone?.parts[i]?.kind ?? part.kind }));
  return newTitleOf({ ...change, kind: undone?.kind ?? change.kind, parts }, pageId);
}

/** How the titles of a page and of its result stand to each other. */
export function pageTitles(db: Db, page: PageRef): PageTitles {
  const snapshots = titlesOf(db, page.id);
  const [last] = snapshots;
  const onPage = last ? { title: last.title ?? '', day: last.lastDay } : null;
  const sighted = lastSighting(db, page.id);
  const inResults = sighted && { title: sighted.title, day: sighted.day };
  const changes = changesOnPages(db, [page.id]);
  const made = changes.filter((change) => isMade(change) && change.day <= siteToday(db, change.siteId));
  const meant = made.map((change) => titleGiven(db, change, page.id)).find((title) => title !== null) ?? null;
  const earlier = earlierTitles(snapshots, changes, page.id);
  return { page, onPage, inResults, meant, check: titleCheck({ onPage, inResults, earlier }, meant) };
}

/**
 * Records that results show what a change gave its pages, once seen on all of them and not yet
 * recorded; on the last day that one of them was first seen. Resolves to whether it was recorded.
 */
export async function recordIfSeen(db: Db, change: Change): Promise<boolean> {
  if (!isMade(change) || change.steps['seen-in-results'] !== undefined) return false;
  const days = change.pages.map(({ id }) => {
    const seen = lastSighting(db, id);
    const title = titleGiven(db, change, id);
    if (!seen || title === null || seen.day < change.day || !isSame(seen.title, title)) return null;
    return seen.since ?? seen.day;
  });
  if (days.includes(null)) return false;
  const last = days.reduce((a, b) => (a! > b! ? a : b), days[0]!)!;
  await recordStep(db, change.id, { step: 'seen-in-results', day: isoDay(last) });
  return true;
}

/**
 * Records the same for the last change that gave a page the title in the results; later changes and
 * plans don’t matter.
 */
export async function recordIfSeenOn(db: Db, pageId: number): Promise<void> {
  const seen = lastSighting(db, pageId);
  const last = changesOnPages(db, [pageId]).find((change) => {
    const title = isMade(change) ? titleGiven(db, change, pageId) : null;
    return seen !== null && title !== null && isSame(seen.title, title);
  });
  if (last) await recordIfSeen(db, last);
}

/**
 * The day on which results last showed another title than a crawled change gave one of its pages;
 * null if they didn’t, or weren’t captured since.
 */
export function seenOldOn(db: Db, change: Change): Day | null {
  const { steps, decision } = change;
  if (steps.crawled === undefined || steps['seen-in-results'] !== undefined || decision !== null) return null;
  const days = change.pages.flatMap(({ id }) => {
    const title = titleGiven(db, change, id);
    const seen = title === null ? null : lastSighting(db, id);
    return seen && seen.day >= change.day && !isSame(seen.title, title!) ? [seen.day] : [];
  });
  return days.length === 0 ? null : (Math.max(...days) as Day);
}
