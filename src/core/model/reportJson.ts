import { z } from 'zod';
import { METRICS } from '../measures/registry';
import { dayJson, jsonFrom, spanJson } from './json';
import { reportScopeSchema, reportWordsSchema, type Report } from './report';
import { LEFT_OUT, REPORT_INKS, REPORT_PART_KEYS, type ShownReport } from './reportContent';

const part = z.enum(REPORT_PART_KEYS as [string, ...string[]]);

/** A report as the API answers with it: what it is about. */
export const reportJson = jsonFrom(
  z
    .object({
      id: z.int(),
      title: z.string(),
      from: dayJson,
      to: dayJson,
      scope: reportScopeSchema,
      parts: z.array(part),
      leaveOut: z.array(z.enum(Object.keys(LEFT_OUT) as [string, ...string[]])),
      words: reportWordsSchema,
      ink: z.enum(Object.keys(REPORT_INKS) as [string, ...string[]]),
      logo: z.boolean().meta({ description: 'Whether it has one.' }),
    })
    .meta({ id: 'Report' }),
  (report: Report) => ({
    ...report,
    from: report.firstDay,
    to: report.lastDay,
    logo: report.logo !== null,
  }),
);

const cell = z.object({ text: z.string(), value: z.union([z.number(), z.string()]).nullable() });

const strips = jsonFrom(
  z.object({
    days: spanJson,
    strips: z.array(z.object({ metric: z.enum(METRICS), values: z.array(z.number().nullable()) })),
  }),
  (shown: NonNullable<ShownReport['content']['parts'][number]['strips']>) => ({
    days: shown.shown,
    strips: shown.strips,
  }),
);

/** A report as the API answers with it: what it says. */
export const shownReportJson = jsonFrom(
  z
    .object({
      title: z.string(),
      site: z.string(),
      address: z.string(),
      from: dayJson,
      to: dayJson,
      about: z.string(),
      readOn: dayJson,
      figuresTo: dayJson.nullable(),
      issue: z.object({ number: z.int(), day: dayJson }).nullable(),
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
          strips: strips.nullable(),
          after: z.string(),
        }),
      ),
    })
    .meta({ id: 'ShownReport' }),
  ({ content, words, issue, changed }: ShownReport) => ({
    ...content,
    from: content.span.firstDay,
    to: content.span.lastDay,
    issue,
    changed,
    parts: content.parts.map((shown) => ({
      ...shown,
      before: words[shown.key]?.before ?? '',
      after: words[shown.key]?.after ?? '',
      tables: shown.tables.map((table) => ({ ...table, columns: table.columns.map(({ name }) => name) })),
    })),
  }),
);
