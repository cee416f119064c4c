import type { z } from 'zod';
import { isoDay, type Day } from '@/core/calendar/day';
import type { Span } from '@/core/calendar/span';
import type { Change } from '@/core/model/change';
import type { OutsideEvent } from '@/core/model/event';
import type { Site } from '@/core/model/site';
import type { Reading } from '@/core/reading/model';
import type { ImportProblem, ImportRow } from '@/store/imports';
import type { changeJson, eventJson, importJson, readingJson, siteJson } from './schemas';

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
  const { expectation } = change;
  return {
    ...change,
    day: isoDay(change.day),
    pages: change.pages.map((page) => page.address),
    queries: [...change.queries],
    expectation: expectation && { ...expectation, reviewDay: day(expectation.reviewDay) },
  };
}

export function eventToJson(event: OutsideEvent): z.infer<typeof eventJson> {
  return { ...event, ...span(event) };
}

export function importToJson(row: ImportRow, problems: ImportProblem[]): z.infer<typeof importJson> {
  const { id, grain, rowsRead, rowsStored, rowsRefused, rowsRepeated, rowsReplaced } = row;
  return {
    id,
    state: row.state === 'draft' ? 'queued' : row.state,
    grain,
    rowsRead,
    rowsStored,
    rowsRefused,
    rowsRepeated,
    rowsReplaced,
    firstDay: day(row.firstDay),
    lastDay: day(row.lastDay),
    // A reason that concerns the whole file stands at its head.
    problems: row.failure ? [{ line: 1, message: row.failure }, ...problems] : problems,
  };
}

export function readingToJson(reading: Reading): z.infer<typeof readingJson> {
  const { spans, compared } = reading;
  return {
    change: changeToJson(reading.change),
    spans: {
      before: span(spans.before),
      after: span(spans.after),
      windowDays: spans.windowDays,
      settlingDays: spans.settlingDays,
      complete: spans.complete,
      completeOn: day(spans.completeOn),
      compared: compared && { before: span(compared.before), after: compared.after && span(compared.after) },
    },
    metrics: reading.metrics,
    queries: [...reading.queries],
    verdict: reading.verdict,
    cautions: reading.cautions.map((caution) => ({ ...caution, days: caution.days && span(caution.days) })),
  };
}
