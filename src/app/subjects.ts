import type { Change, PageRef } from '@/core/model/change';
import type { OutsideEvent } from '@/core/model/event';
import type { Report } from '@/core/model/report';
import type { SheetLine } from '@/core/lists/querySheet';
import type { Round } from '@/core/model/round';
import type { Routine } from '@/core/routines/routine';
import type { Site } from '@/core/model/site';
import { findPage, siteOfPage } from '@/store/addresses/pages';
import type { Db } from '@/store/database';
import { findSnapshot, pageOfSnapshot, type KeptSnapshot } from '@/store/evidence/snapshots';
import { findFeed, type FeedRow } from '@/store/figures/feeds';
import { findImport, type ImportRow } from '@/store/figures/imports';
import { findQuery, type AskedQuery } from '@/store/figures/queryIds';
import { findChange } from '@/store/ledger/findChanges';
import { findStandingEvent } from '@/store/ledger/events';
import type { ResultPage } from '@/core/wording/resultPage';
import { findResultPage } from '@/store/wording/resultPages';
import { findReport } from '@/store/reports/reports';
import { findRound } from '@/store/rounds/rounds';
import { routineOfNumber } from '@/store/routines/routines';
import { findSite } from '@/store/sites';
import { findSheet, type KeptSheet } from '@/store/traits/sheets';

/*
 * What routes and actions are about, each found in one way: by its number, with the site that it belongs to. What was deleted
 * is not there.
 */

const ofSite = <T extends object>(
  db: Db,
  siteId: number | undefined,
  thing: T | null,
): (T & { site: Site }) | null => {
  const site = thing && siteId !== undefined ? findSite(db, siteId) : null;
  return thing && site ? { ...thing, site } : null;
};

export const SUBJECTS = {
  site: {
    name: 'site',
    find: (db: Db, id: number): { site: Site } | null => {
      const site = findSite(db, id);
      return site && { site };
    },
  },
  page: {
    name: 'page',
    find: (db: Db, id: number): { site: Site; page: PageRef } | null => {
      const siteId = siteOfPage(db, id);
      const page = siteId === undefined ? null : findPage(db, siteId, id);
      return ofSite(db, siteId, page && { page });
    },
  },
  query: {
    name: 'query',
    find: (db: Db, id: number): { site: Site; asked: AskedQuery } | null => {
      const asked = findQuery(db, id);
      return ofSite(db, asked?.siteId, asked && { asked });
    },
  },
  change: {
    name: 'change',
    find: (db: Db, id: number): { site: Site; change: Change } | null => {
      const change = findChange(db, id);
      return ofSite(db, change?.siteId, change && { change });
    },
  },
  event: {
    name: 'event',
    find: (db: Db, id: number): { site: Site; event: OutsideEvent } | null => {
      const event = findStandingEvent(db, id);
      return ofSite(db, event?.siteId, event && { event });
    },
  },
  /** A file that was confirmed; a draft is nothing to scripts. */
  import: {
    name: 'import',
    find: (db: Db, id: number): { site: Site; row: ImportRow } | null => {
      const row = findImport(db, id);
      return ofSite(db, row?.siteId, row && row.state !== 'draft' ? { row } : null);
    },
  },
  draft: {
    name: 'import',
    find: (db: Db, id: number): { site: Site; row: ImportRow } | null => {
      const row = findImport(db, id);
      return ofSite(db, row?.siteId, row && { row });
    },
  },
  feed: {
    name: 'feed',
    find: (db: Db, id: number): { site: Site; feed: FeedRow } | null => {
      const feed = findFeed(db, id);
      return ofSite(db, feed?.siteId, feed && { feed });
    },
  },
  resultPage: {
    name: 'result page',
    find: (db: Db, id: number): { site: Site; resultPage: ResultPage } | null => {
      const resultPage = findResultPage(db, id);
      return ofSite(db, resultPage?.siteId, resultPage && { resultPage });
    },
  },
  report: {
    name: 'report',
    find: (db: Db, id: number): { site: Site; report: Report } | null => {
      const report = findReport(db, id);
      return ofSite(db, report?.siteId, report && { report });
    },
  },
  round: {
    name: 'round',
    find: (db: Db, id: number): { site: Site; round: Round } | null => {
      const round = findRound(db, id);
      return ofSite(db, round?.siteId, round && { round });
    },
  },
  snapshot: {
    name: 'snapshot',
    find: (db: Db, id: number): { site: Site; snapshot: KeptSnapshot; page: PageRef } | null => {
      const snapshot = findSnapshot(db, id);
      const page = snapshot && pageOfSnapshot(db, snapshot);
      return ofSite(db, snapshot?.siteId, snapshot && page && { snapshot, page });
    },
  },
  routine: {
    name: 'routine',
    find: (db: Db, id: number): { site: Site; routine: Routine } | null => {
      const routine = routineOfNumber(db, id);
      return ofSite(db, routine?.siteId, routine && { routine });
    },
  },
  sheet: {
    name: 'sheet',
    find: (db: Db, id: number): { site: Site; sheet: KeptSheet; lines: readonly SheetLine[] } | null => {
      const found = findSheet(db, id);
      return ofSite(db, found?.sheet.siteId, found);
    },
  },
} as const;

export type SubjectName = keyof typeof SUBJECTS;
export type Subjects = { [S in SubjectName]: NonNullable<ReturnType<(typeof SUBJECTS)[S]['find']>> };

/** What each is called by people, for the list of who did what. */
const TITLES: { [S in SubjectName]: (subject: Subjects[S]) => string } = {
  site: ({ site }) => site.name,
  page: ({ page }) => page.address,
  query: ({ asked }) => asked.text,
  change: ({ change }) => change.title,
  event: ({ event }) => event.name,
  import: ({ row }) => row.fileName,
  draft: ({ row }) => row.fileName,
  feed: ({ feed }) => feed.name,
  resultPage: ({ resultPage }) => resultPage.query.text,
  report: ({ report }) => report.title,
  round: ({ round }) => round.name,
  snapshot: ({ page }) => page.address,
  routine: ({ routine }) => routine.name,
  sheet: ({ sheet }) => sheet.name,
};

/** What people call a thing. */
export function titleOf<S extends SubjectName>(on: S, subject: Subjects[S]): string {
  return (TITLES[on] as (subject: Subjects[S]) => string)(subject);
}
