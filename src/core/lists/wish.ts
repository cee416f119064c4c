/* What a list is asked for, as it stands in the address of a screen and of the HTTP interface alike. */

import { z } from 'zod';
import { addDays, isoDay, parseIsoDay, type Day } from '../calendar/day';
import { lastSpans, parseSpan, spanLength, type Span } from '../calendar/span';
import { isoDaySchema } from '../model/fields';
import { NARROW_DEVICES } from '../reading/narrowing';
import type { Range, Sorting } from './choose';
import { COLUMN_KEYS, columnsOf, type Column, type ListSubject } from './columns';
import { INTENTS } from '../model/intents';

/** What the days of a list can be compared with, as forms offer it. */
export const COMPARE_WITH = [
  ['before', 'against the days before'],
  ['year', 'against a year earlier'],
  ['none', 'alone'],
] as const;

/** Days of a list where none are said, and as many before them. */
export const LIST_DAYS = 28;
/** A list goes over no more days than these: sixteen months and some. */
const MOST_LIST_DAYS = 550;
const [USUAL_LIMIT, MOST_LIMIT] = [50, 1000];

const SORTS = COLUMN_KEYS.flatMap((column) => [column, `-${column}`]) as [string, ...string[]];

/** A number as it is written in an address. */
const bound = z.coerce.number('A number, please.').optional();
const ranges = Object.fromEntries(
  COLUMN_KEYS.flatMap((column) => [
    [`${column}.min`, bound],
    [`${column}.max`, bound],
  ]),
);

export const listQuerySchema = z.object({
  from: isoDaySchema
    .optional()
    .meta({ description: 'The first day; the last 28 that may be read where absent.' }),
  to: isoDaySchema.optional(),
  against: z
    .union([z.enum(['before', 'year', 'none']), z.string().regex(/^\d{4}-\d\d-\d\d\.\.\d{4}-\d\d-\d\d$/)])
    .default('before')
    .meta({ description: 'As many days before, the same days a year earlier, nothing, or FROM..TO.' }),
  device: z.enum(NARROW_DEVICES).optional(),
  q: z.string().max(200).optional().meta({ description: 'Words that all have to be in it.' }),
  without: z.string().max(200).optional().meta({ description: 'Words none of which may be in it.' }),
  brand: z.enum(['only', 'without']).optional(),
  intent: z.enum(INTENTS).optional(),
  group: z.string().max(200).optional(),
  sort: z.enum(SORTS).default('-impressions').meta({ description: 'A column; a minus for falling.' }),
  limit: z.coerce.number().int().min(1).max(MOST_LIMIT).default(USUAL_LIMIT),
  cursor: z
    .string()
    .regex(/^\d{1,9}$/, 'Give the `next` of the answer before.')
    .optional(),
  ...ranges,
});
export type ListQuery = z.infer<typeof listQuerySchema> & { readonly [bound: string]: unknown };

/** The spans of a list; a sentence where they make no sense. */
export function listSpans(
  { from, to, against }: Pick<ListQuery, 'from' | 'to' | 'against'>,
  lastReadable: Day,
): { now: Span; was: Span | null } | string {
  const lastDay = to === undefined ? lastReadable : parseIsoDay(to)!;
  const firstDay = from === undefined ? addDays(lastDay, 1 - LIST_DAYS) : parseIsoDay(from)!;
  const now = { firstDay, lastDay };
  const days = spanLength(now);
  if (days < 1) return 'The first day must not come after the last.';
  if (days > MOST_LIST_DAYS) return `A list goes over at most ${MOST_LIST_DAYS} days; these are ${days}.`;
  if (against === 'none') return { now, was: null };
  if (against === 'before') return { now, was: lastSpans(lastDay, days).before };
  if (against === 'year')
    return { now, was: { firstDay: yearEarlier(firstDay), lastDay: yearEarlier(lastDay) } };
  const was = parseSpan(against);
  if (!was) return 'Write the days to compare with as FROM..TO: 2026-08-01..2026-08-28.';
  if (was.firstDay <= lastDay && was.lastDay >= firstDay)
    return 'The days to compare with must not overlap the days shown.';
  return { now, was };
}

/** The same weekday 52 weeks earlier: whole weeks, so that weekdays count alike. */
function yearEarlier(day: Day): Day {
  return addDays(day, -364);
}

/** The ranges of columns that are asked for. */
export function listRanges(query: ListQuery, subject: ListSubject): [Column, Range][] {
  return columnsOf(subject).flatMap((column): [Column, Range][] => {
    const [min, max] = [query[`${column}.min`], query[`${column}.max`]] as (number | undefined)[];
    return min === undefined && max === undefined ? [] : [[column, { min: min ?? null, max: max ?? null }]];
  });
}

/** What a list is sorted by. */
export function listSorting(sort: string): Sorting {
  return sort.startsWith('-')
    ? { column: sort.slice(1) as Column, falling: true }
    : { column: sort as Column, falling: false };
}

/** The words of a text that is searched for, in lower case. */
export function listWords(text: string | undefined): string[] {
  return (text ?? '').toLowerCase().split(/\s+/).filter(Boolean).slice(0, 12);
}

/** A span as it is written. @example spanWritten(span) // "2026-08-01..2026-08-28" */
export function spanWritten({ firstDay, lastDay }: Span): string {
  return `${isoDay(firstDay)}..${isoDay(lastDay)}`;
}
