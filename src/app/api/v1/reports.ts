import { z } from 'zod';
import { isoDay } from '@/core/calendar/day';
import { reportScopeSchema, reportWordsSchema, type Report } from '@/core/model/report';
import { METRICS } from '@/core/measures/registry';
import { LEFT_OUT, REPORT_INKS, REPORT_PART_KEYS, type ShownReport } from '@/core/model/reportContent';
import { day, span } from './schemas';

/* Reports: what they are about, and what they say. */

const part = z.enum(REPORT_PART_KEYS as [string, ...string[]]);

export const reportJson = z
  .object({
    id: z.int(),
    title: z.string(),
    from: day,
    to: day,
    scope: reportScopeSchema,
    parts: z.array(part),
    leaveOut: z.array(z.enum(Object.keys(LEFT_OUT) as [string, ...string[]])),
    words: reportWordsSchema,
    ink: z.enum(Object.keys(REPORT_INKS) as [string, ...string[]]),
    logo: z.boolean().meta({ description: 'Whether it has one.' }),
  })
  .meta({ id: 'Report' });

export function reportToJson(report: Report): z.infer<typeof reportJson> {
  const { id, title, firstDay, lastDay, scope, parts, leaveOut, words, ink, logo } = report;
  return {
    ...{ id, title, from: isoDay(firstDay), to: isoDay(lastDay), scope, words, ink, logo: logo !== null },
    ...{ parts: [...parts], leaveOut: [...leaveOut] },
  };
}

const cell = z.object({ text: z.string(), value: z.union([z.number(), z.string()]).nullable() });
export const shownReportJson = z
  .object({
    title: z.string(),
    site: z.string(),
    address: z.string(),
    from: day,
    to: day,
    about: z.string(),
    readOn: day,
    figuresTo: day.nullable(),
    issue: z.object({ number: z.int(), day }).nullable(),
    changed: z.array(z.string()).meta({ description: 'What changed since it was sent last.' }),
    parts: z.array(
      z.object({
        key: part,
        heading: z.string(),
        before: z.string(),
        sentences: z.array(z.string()),
        tables: z.array(
          z.object({ title: z.string(), columns: z.array(z.string()), rows: z.array(z.array(cell)) }),
        ),
        strips: z
          .object({
            days: span,
            strips: z.array(z.object({ metric: z.enum(METRICS), values: z.array(z.number().nullable()) })),
          })
          .nullable(),
        after: z.string(),
      }),
    ),
  })
  .meta({ id: 'ShownReport' });

export function shownReportToJson({
  content,
  words,
  issue,
  changed,
}: ShownReport): z.infer<typeof shownReportJson> {
  const { title, site, address, about, readOn, figuresTo, parts } = content;
  return {
    ...{ title, site, address, about, readOn: isoDay(readOn) },
    ...{ from: isoDay(content.span.firstDay), to: isoDay(content.span.lastDay) },
    figuresTo: figuresTo === null ? null : isoDay(figuresTo),
    issue: issue && { number: issue.number, day: isoDay(issue.day) },
    changed: [...changed],
    parts: parts.map(({ key, heading, sentences, tables, strips }) => ({
      ...{ key, heading, sentences: [...sentences] },
      ...{ before: words[key]?.before ?? '', after: words[key]?.after ?? '' },
      tables: tables.map(({ title: name, columns, rows }) => ({
        title: name,
        columns: columns.map((column) => column.name),
        rows: rows.map((row) => row.map(({ text, value }) => ({ text, value }))),
      })),
      strips: strips && {
        days: { firstDay: isoDay(strips.shown.firstDay), lastDay: isoDay(strips.shown.lastDay) },
        strips: strips.strips.map(({ metric, values }) => ({ metric, values: [...values] })),
      },
    })),
  };
}
