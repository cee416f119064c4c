import type { z } from 'zod';
import { isoDay, type Day } from '@/core/calendar/day';
import type { Span } from '@/core/calendar/span';
import { type Estimates } from '@/core/effect/effect';
import { byMetric } from '@/core/measures/registry';
import type { Difference } from '@/core/markup/differences';
import type { Change, PageRef } from '@/core/model/change';
import { plainValuesOf } from '@/core/model/changeFields';
import type { Snapshot } from '@/core/model/evidence';
import type { OutsideEvent } from '@/core/model/event';
import type { Site } from '@/core/model/site';
import { isMade } from '@/core/model/steps';
import { compareTotals } from '@/core/measures/comparison';
import { NO_FIGURES } from '@/core/measures/totals';
import type { Reading } from '@/core/reading/readingModel';
import { plainSentence, readingSentence } from '@/core/reading/readingSentence';
import type { Reasons } from '@/core/reasons/reasons';
import { SiteContext } from '@/services/site/siteContext';
import { wrongTwins, wrongTwinText } from '@/services/pages/twins';
import type { Db } from '@/store/database';
import type { ImportProblem, ImportRow } from '@/store/figures/imports';
import type { KeptSnapshot, Unlogged } from '@/store/evidence/snapshots';
import type { FeedRow } from '@/store/figures/feeds';
import type {
  changeJson,
  eventJson,
  feedJson,
  importJson,
  loggedChangeJson,
  siteJson,
  snapshotComparisonJson,
  snapshotJson,
  unloggedJson,
} from './schemas';
import type { readingJson, readingsJson } from './readingSchemas';

/* From the program's own values, in which days are whole numbers, to what the HTTP interface answers with. */

function day(value: number | null): string | null {
  return value === null ? null : isoDay(value as Day);
}

function span({ firstDay, lastDay }: Span) {
  return { firstDay: isoDay(firstDay), lastDay: isoDay(lastDay) };
}

export function siteToJson({ id, name, address }: Site): z.infer<typeof siteJson> {
  return { id, name, address };
}

export function changeToJson(change: Change): z.infer<typeof changeJson> {
  const { expectation, decision } = change;
  return {
    ...{ id: change.id, siteId: change.siteId, ...plainValuesOf(change) },
    day: isoDay(change.day),
    pages: change.pages.map((page) => page.address),
    queries: [...change.queries],
    parts: change.parts.map(({ kind, page, oldText, newText }) => ({
      ...{ kind, oldText, newText },
      page: page?.address ?? null,
    })),
    tags: [...change.tags],
    decision,
    expectation: expectation && {
      ...{ metric: expectation.metric, direction: expectation.direction, amount: expectation.amount },
      reviewDay: day(expectation.reviewDay),
    },
    planned: !isMade(change),
    steps: Object.fromEntries(Object.entries(change.steps).map(([step, on]) => [step, isoDay(on)])),
  };
}

/** A change as it was logged or edited, with what makes it doubtful. */
export function loggedChangeToJson(db: Db, site: Site, change: Change): z.infer<typeof loggedChangeJson> {
  const twins = new Map(
    wrongTwins(
      new SiteContext(db, site),
      change.pages.map(({ address }) => address),
    ).map((wrong) => [wrong.address, wrongTwinText(wrong)]),
  );
  return {
    ...changeToJson(change),
    cautions: change.pages.flatMap(({ address }, i) => {
      const message = twins.get(address);
      return message === undefined ? [] : [{ field: `pages.${i}`, message }];
    }),
  };
}

export function eventToJson(event: OutsideEvent): z.infer<typeof eventJson> {
  const { id, siteId, name, kind, link, note, group, hidden } = event;
  return { ...{ id, siteId, name, kind, link, note, group, hidden }, ...span(event) };
}

export function importToJson(row: ImportRow, problems: ImportProblem[]): z.infer<typeof importJson> {
  const { id, about, grain, fileName, dialect, bytesTotal, bytesRead } = row;
  const { rowsRead, rowsStored, rowsRefused, rowsLeftOut, rowsRepeated, rowsReplaced, rowsChanged } = row;
  return {
    id,
    state: row.state === 'draft' ? 'queued' : row.state,
    ...{ about, grain, fileName, dialect, bytesTotal, bytesRead },
    ...{ rowsRead, rowsStored, rowsRefused, rowsLeftOut, rowsRepeated, rowsReplaced, rowsChanged },
    firstDay: day(row.firstDay),
    lastDay: day(row.lastDay),
    foldedAt: row.foldedAt,
    // A reason that concerns the whole file stands at its head.
    problems: row.failure ? [{ line: 1, message: row.failure }, ...problems] : problems,
  };
}

export function snapshotToJson(snapshot: KeptSnapshot, page: PageRef): z.infer<typeof snapshotJson> {
  const { evidence } = snapshot;
  return {
    ...{ id: snapshot.id, page: page.address, takenAt: snapshot.takenAt },
    ...{ day: isoDay(snapshot.day), lastDay: isoDay(snapshot.lastDay) },
    ...{ status: evidence.status, finalAddress: evidence.finalAddress, title: evidence.title },
    ...{ description: evidence.description, canonical: evidence.canonical },
    ...{ words: evidence.words, text: evidence.text, images: evidence.images },
    ...{ encoding: evidence.encoding, misfits: evidence.misfits },
    robots: [...evidence.robots],
    headings: evidence.headings.map(({ level, text }) => ({ level, text })),
    structuredData: evidence.structuredData.map(({ types, problem }) => ({ types: [...types], problem })),
    links: [...evidence.links],
    imagesWithoutAlt: [...evidence.imagesWithoutAlt],
  };
}

export function comparisonToJson(
  before: Snapshot,
  after: Snapshot,
  differences: readonly Difference[],
): z.infer<typeof snapshotComparisonJson> {
  return { before: before.id, after: after.id, differences: [...differences] };
}

/** More queries than this are given as one sum. */
const MOST_QUERIES = 500;

export function readingToJson(reading: Reading): z.infer<typeof readingJson> {
  const { change, narrowed } = reading;
  return {
    change: changeToJson(change),
    narrowed: {
      query: narrowed.query,
      device: narrowed.device,
      country: narrowed.country,
      page: change.pages.find((page) => page.id === narrowed.pageId)?.address ?? null,
    },
    spans: spansToJson(reading),
    ...gistToJson(reading),
    asOf: day(reading.asOf),
    saidAtCompletion: reading.saidAtCompletion && {
      day: isoDay(reading.saidAtCompletion.day),
      ...{ verdict: reading.saidAtCompletion.verdict, sentence: reading.saidAtCompletion.sentence },
    },
    queries: [...reading.queries],
    reasons: reading.reasons && reasonsToJson(reading.reasons),
    widerExposure: reading.widerExposure,
    yearBefore: reading.yearBefore,
    carriers: reading.carriers.map((carrier) => ({ address: carrier.address, ...span(carrier) })),
    wait: reading.wait && {
      ...{ metric: reading.wait.metric, expectedRatio: reading.wait.expectedRatio },
      ...{ daysNeeded: reading.wait.daysNeeded, showable: [...reading.wait.showable] },
    },
  };
}

/** A reading as one of a list. */
export function readingToItem(reading: Reading): z.infer<typeof readingsJson>['items'][number] {
  return {
    changeId: reading.change.id,
    day: isoDay(reading.change.day),
    spans: spansToJson(reading),
    ...gistToJson(reading),
  };
}

function spansToJson({ spans, compared }: Reading) {
  return {
    before: span(spans.before),
    after: span(spans.after),
    windowDays: spans.windowDays,
    settlingDays: spans.settlingDays,
    complete: spans.complete,
    completeOn: day(spans.completeOn),
    compared: compared && { before: span(compared.before), after: compared.after && span(compared.after) },
  };
}

function gistToJson(reading: Reading) {
  const { metrics, judged, verdict, movedIn, net, marks, yardstick, swing, cautions } = reading;
  const addresses = new Map(reading.change.pages.map((page) => [page.id, page.address]));
  return {
    ...{ metrics, judged, verdict, movedIn, net, marks, yardstick, swing },
    early: reading.early
      ? {
          ...{ called: reading.early.called, movedIn: reading.early.movedIn },
          ...{ day: isoDay(reading.early.day), look: reading.early.look },
        }
      : { called: null, movedIn: null, day: null, look: null },
    estimates: reading.estimates && estimatesToJson(reading.estimates),
    control: yardstick && {
      kind: 'yardstick' as const,
      pages: yardstick.pages,
      group: reading.movesWith?.mostly ?? null,
    },
    pages: reading.pages.map((page) => ({
      page: addresses.get(page.id) ?? '',
      net: page.net,
      mark: page.mark,
    })),
    sentence: plainSentence(readingSentence(reading)),
    cautions: cautions.map(({ code, message, days, changeId, eventId }) => ({
      ...{ code, message, days: days && span(days), changeId, eventId },
    })),
  };
}

/** The estimates of the metrics, on the log scale. */
export function estimatesToJson(estimates: Estimates) {
  return byMetric((metric) => {
    const one = estimates[metric];
    return one && { log: one.net, standardError: one.standardError, critical: one.critical };
  });
}

function reasonsToJson({
  queries,
  reach: all,
  rank: ranks,
  appeal: appeals,
  total,
  unseen,
}: Reasons): NonNullable<z.infer<typeof readingJson>['reasons']> {
  const rest = queries.slice(MOST_QUERIES);
  const sum = (of: 'reach' | 'rank' | 'appeal') => rest.reduce((total, query) => total + query[of], 0);
  return {
    ...{ reach: all, rank: ranks, appeal: appeals, total, unseen },
    queries: queries
      .slice(0, MOST_QUERIES)
      .map(({ query, seen, reach, rank, appeal, before, after, expected }) => ({
        ...{ query, seen, reach, rank, appeal },
        metrics: compareTotals(before ?? NO_FIGURES, after ?? NO_FIGURES, expected),
      })),
    otherQueries: {
      queries: rest.length,
      reach: sum('reach'),
      rank: sum('rank'),
      appeal: sum('appeal'),
    },
  };
}

export function feedToJson(feed: FeedRow): z.infer<typeof feedJson> {
  const { id, siteId, name, address, token, daily, allowPrivate, state, pagesFetched } = feed;
  const { lastTriedAt, lastFetchedAt, failure } = feed;
  return {
    ...{ id, siteId, name, address, hasToken: token !== null, daily, allowPrivate },
    ...{ state, pagesFetched, lastTriedAt, lastFetchedAt, failure },
  };
}

export function unloggedToJson(found: Unlogged): z.infer<typeof unloggedJson>['items'][number] {
  const { snapshotId, page, from, to, differences } = found;
  return {
    ...{ snapshotId, page: page.address, from: isoDay(from), to: isoDay(to) },
    differences: [...differences],
  };
}
