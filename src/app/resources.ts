import { changeJson } from '@/core/model/changeJson';
import { eventJson } from '@/core/model/eventJson';
import { feedJson } from '@/core/model/feedJson';
import { toJson } from '@/core/model/json';
import { reportJson } from '@/core/model/reportJson';
import { roundJson } from '@/core/model/roundJson';
import type { Site } from '@/core/model/site';
import { siteJson } from '@/core/model/siteJson';
import { snapshotJson } from '@/core/model/snapshotJson';
import { pageJson, queryJson } from '@/core/model/traitsJson';
import { oneImportJson } from '@/core/intake/importJson';
import { resultPageJson } from '@/core/wording/resultPageJson';
import { missedJoins } from '@/services/pages/missedJoins';
import { findPage, siteOfPage } from '@/store/addresses/pages';
import type { Db } from '@/store/database';
import { findSnapshot, pageOfSnapshot } from '@/store/evidence/snapshots';
import { findFeed } from '@/store/figures/feeds';
import { findImport, listProblems, PROBLEMS_SHOWN, type ImportRow } from '@/store/figures/imports';
import { findQuery } from '@/store/figures/queryIds';
import { findChange } from '@/store/ledger/findChanges';
import { findStandingEvent } from '@/store/ledger/events';
import { findReport } from '@/store/reports/reports';
import { findRound } from '@/store/rounds/rounds';
import { routineOfNumber } from '@/store/routines/routines';
import { findSite } from '@/store/sites';
import { findSheet } from '@/store/traits/sheets';
import { traitsOfPage, traitsOfQuery } from '@/store/traits/traits';
import { findResultPage } from '@/store/wording/resultPages';
import { routes } from '@/ui/shell/routes';

/*
 * What routes, actions and screens are about, each described once: how it is found, what it is called,
 * how the API answers with it, and where it is looked at.
 */

/** A resource that belongs to a site; what was deleted isn't found. */
type Resource<Found extends object> = {
  /** What messages call it. */
  readonly name: string;
  readonly find: (db: Db, id: number) => (Found & { readonly site: Site }) | null;
  /** What people call this one, as the activity log keeps it. */
  readonly title: (found: Found & { readonly site: Site }) => string;
  /** Its answer under its own address in the API; absent where it has none. */
  readonly json?: (found: Found & { readonly site: Site }, db: Db) => object;
  /** Its screen; absent where it has none. */
  readonly screen?: (siteId: number, id: number) => string;
};

const resource = <Found extends object>(described: Resource<Found>) => described;

/** What was found, with its site; null if either is absent. */
function withSite<Found extends object>(db: Db, siteId: number | undefined, found: Found | null) {
  const site = found && siteId !== undefined ? findSite(db, siteId) : null;
  return found && site ? { ...found, site } : null;
}

/** An import in the state it is in: confirmed, or also before that. */
const importResource = (among: (row: ImportRow) => boolean) =>
  resource({
    name: 'import',
    find: (db, id) => {
      const row = findImport(db, id);
      return withSite(db, row?.siteId, row && among(row) ? { row } : null);
    },
    title: ({ row }) => row.fileName,
    screen: routes.import,
    json: ({ site, row }, db) =>
      toJson(oneImportJson, {
        ...row,
        problems: listProblems(db, row.id, PROBLEMS_SHOWN),
        missedJoins: missedJoins(db, site, row),
      }),
  });

export const RESOURCES = {
  site: resource({
    name: 'site',
    find: (db, id) => withSite(db, id, {}),
    title: ({ site }) => site.name,
    json: ({ site }) => toJson(siteJson, site),
  }),
  page: resource({
    name: 'page',
    find: (db, id) => {
      const siteId = siteOfPage(db, id);
      const page = siteId === undefined ? null : findPage(db, siteId, id);
      return withSite(db, siteId, page && { page });
    },
    title: ({ page }) => page.address,
    json: ({ page }, db) => toJson(pageJson, { ...page, ...traitsOfPage(db, page.id) }),
    screen: routes.page,
  }),
  query: resource({
    name: 'query',
    find: (db, id) => {
      const asked = findQuery(db, id);
      return withSite(db, asked?.siteId, asked && { asked });
    },
    title: ({ asked }) => asked.text,
    json: ({ asked: { id, siteId, text } }, db) => {
      const { targetPageId, intent, brand } = traitsOfQuery(db, id);
      const target = targetPageId === null ? null : (findPage(db, siteId, targetPageId)?.address ?? null);
      return toJson(queryJson, { id, query: text, target, intent, brand });
    },
    screen: routes.query,
  }),
  change: resource({
    name: 'change',
    find: (db, id) => {
      const change = findChange(db, id);
      return withSite(db, change?.siteId, change && { change });
    },
    title: ({ change }) => change.title,
    json: ({ change }) => toJson(changeJson, change),
    screen: routes.change,
  }),
  event: resource({
    name: 'event',
    find: (db, id) => {
      const event = findStandingEvent(db, id);
      return withSite(db, event?.siteId, event && { event });
    },
    title: ({ event }) => event.name,
    json: ({ event }) => toJson(eventJson, event),
    screen: routes.event,
  }),
  /** A file that was confirmed: scripts don't see drafts. */
  import: importResource(({ state }) => state !== 'draft'),
  draft: importResource(() => true),
  feed: resource({
    name: 'feed',
    find: (db, id) => {
      const feed = findFeed(db, id);
      return withSite(db, feed?.siteId, feed && { feed });
    },
    title: ({ feed }) => feed.name,
    json: ({ feed }) => toJson(feedJson, feed),
  }),
  resultPage: resource({
    name: 'result page',
    find: (db, id) => {
      const resultPage = findResultPage(db, id);
      return withSite(db, resultPage?.siteId, resultPage && { resultPage });
    },
    title: ({ resultPage }) => resultPage.query.text,
    json: ({ resultPage }) => toJson(resultPageJson, resultPage),
    screen: routes.resultPage,
  }),
  report: resource({
    name: 'report',
    find: (db, id) => {
      const report = findReport(db, id);
      return withSite(db, report?.siteId, report && { report });
    },
    title: ({ report }) => report.title,
    json: ({ report }) => toJson(reportJson, report),
    screen: routes.report,
  }),
  round: resource({
    name: 'round',
    find: (db, id) => {
      const round = findRound(db, id);
      return withSite(db, round?.siteId, round && { round });
    },
    title: ({ round }) => round.name,
    json: ({ round }) => toJson(roundJson, round),
    screen: routes.round,
  }),
  snapshot: resource({
    name: 'snapshot',
    find: (db, id) => {
      const snapshot = findSnapshot(db, id);
      const page = snapshot && pageOfSnapshot(db, snapshot);
      return withSite(db, snapshot?.siteId, snapshot && page && { snapshot, page });
    },
    title: ({ page }) => page.address,
    json: ({ snapshot, page }) => toJson(snapshotJson, { snapshot, page }),
  }),
  routine: resource({
    name: 'routine',
    find: (db, id) => {
      const routine = routineOfNumber(db, id);
      return withSite(db, routine?.siteId, routine && { routine });
    },
    title: ({ routine }) => routine.name,
  }),
  sheet: resource({
    name: 'sheet',
    find: (db, id) => {
      const found = findSheet(db, id);
      return withSite(db, found?.sheet.siteId, found);
    },
    title: ({ sheet }) => sheet.name,
  }),
} as const;

export type ResourceName = keyof typeof RESOURCES;
export type Resources = { [R in ResourceName]: NonNullable<ReturnType<(typeof RESOURCES)[R]['find']>> };

/** What the API answers with under a resource's own address. Throws Error if it has none. */
export function represented<R extends ResourceName>(db: Db, on: R, found: Resources[R]): object {
  const { name, json } = resourceOf(on);
  if (!json) throw new Error(`A ${name} has no address of its own.`);
  return json(found, db);
}

/** The description of a resource, typed for what it finds. */
export function resourceOf<R extends ResourceName>(on: R): Resource<Resources[R]> {
  return RESOURCES[on] as unknown as Resource<Resources[R]>;
}
