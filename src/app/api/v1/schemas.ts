import { z } from 'zod';
import { EVENT_KINDS, type EventKind } from '@/core/model/event';
import { METRICS } from '@/core/model/change';
import { settlingDaysSchema, windowDaysSchema } from '@/core/model/site';

/* What the HTTP interface answers with. Days are YYYY-MM-DD, ratios plain numbers (0.031, not "3.1%"). */

const day = z.iso.date();
const span = z.object({ firstDay: day, lastDay: day });

export const siteJson = z.object({ id: z.int(), name: z.string(), address: z.string() }).meta({ id: 'Site' });

export const changeJson = z
  .object({
    id: z.int(),
    siteId: z.int(),
    title: z.string(),
    kind: z.string(),
    day,
    pages: z.array(z.string()),
    queries: z.array(z.string()),
    oldText: z.string().nullable(),
    newText: z.string().nullable(),
    settlingDays: z.int().nullable(),
    windowDays: z.int().nullable(),
    expectation: z
      .object({
        metric: z.enum(METRICS),
        direction: z.enum(['up', 'down']),
        amount: z.number().nullable(),
        reviewDay: day.nullable(),
      })
      .nullable(),
    person: z.string().nullable(),
    link: z.string().nullable(),
    note: z.string().nullable(),
  })
  .meta({ id: 'Change' });

export const eventJson = z
  .object({
    id: z.int(),
    siteId: z.int(),
    name: z.string(),
    kind: z.enum(Object.keys(EVENT_KINDS) as [EventKind, ...EventKind[]]),
    firstDay: day,
    lastDay: day,
    link: z.string().nullable(),
    note: z.string().nullable(),
  })
  .meta({ id: 'Event' });

export const importJson = z
  .object({
    id: z.int(),
    state: z.enum(['queued', 'running', 'done', 'failed']),
    grain: z.enum(['page_day', 'page_query_day']).nullable(),
    rowsRead: z.int(),
    rowsStored: z.int(),
    rowsRefused: z.int(),
    rowsRepeated: z
      .int()
      .meta({ description: 'Lines that repeat another of the same file to the letter; counted once.' }),
    rowsReplaced: z
      .int()
      .meta({ description: 'Stored values that were there before and have been replaced.' }),
    firstDay: day.nullable(),
    lastDay: day.nullable(),
    problems: z.array(z.object({ line: z.int(), message: z.string() })),
  })
  .meta({ id: 'Import' });

const comparison = z
  .object({
    before: z.number().nullable(),
    after: z.number().nullable(),
    difference: z.number().nullable(),
    ratio: z.number().nullable().meta({ description: 'after / before' }),
  })
  .meta({ id: 'Comparison' });

const metrics = z
  .object({
    clicks: comparison,
    impressions: comparison,
    ctr: comparison,
    position: z.object({
      before: z.number().nullable(),
      after: z.number().nullable(),
      placesGained: z.number().nullable().meta({ description: 'before - after: a gain is positive.' }),
    }),
  })
  .meta({ id: 'Metrics' });

export const readingJson = z
  .object({
    change: changeJson,
    spans: z.object({
      before: span,
      after: span,
      windowDays: z.int(),
      settlingDays: z.int(),
      complete: z.boolean(),
      completeOn: day.nullable().meta({
        description:
          'When a waiting reading is expected to be complete; null where only figures are wanting that exist already.',
      }),
      compared: z.object({ before: span, after: span.nullable() }).nullable().meta({
        description:
          'What `metrics` compares: the spans, or whole weeks of them while waiting; before the first week is over, the before span alone.',
      }),
    }),
    metrics,
    queries: z.array(z.object({ query: z.string(), metrics })),
    verdict: z.enum(['raw-change', 'waiting', 'no-figures']).meta({
      description: 'raw-change: the plain difference, of which no cause is claimed.',
    }),
    cautions: z.array(
      z.object({
        code: z.string(),
        message: z.string(),
        days: span.nullable(),
        changeId: z.int().nullable(),
        eventId: z.int().nullable(),
      }),
    ),
  })
  .meta({ id: 'Reading' });

export const problemJson = z
  .object({
    type: z.string(),
    title: z.string(),
    status: z.int(),
    detail: z.string(),
    errors: z.array(z.object({ field: z.string(), message: z.string() })).optional(),
  })
  .meta({ id: 'Problem' });

/** Spans asked for in the address of a reading; numbers written as text. */
export const spanWishSchema = z.object({
  windowDays: z.coerce.number().pipe(windowDaysSchema).optional(),
  settlingDays: z.coerce.number().pipe(settlingDaysSchema).optional(),
});
