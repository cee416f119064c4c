import { z } from 'zod';
import { isoDay, parseIsoDay, type Day } from '../calendar/day';
import { MOST_SPAN_DAYS } from '../calendar/span';
import {
  LEFT_OUT,
  REPORT_INKS,
  REPORT_PART_KEYS,
  type LeftOutOfReport,
  type ReportInk,
  type ReportPartKey,
  type ReportWords,
} from './reportContent';
import { isoDaySchema, lineText } from './fields';

/** What a report is about. */
export const reportScopeSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('site') }),
  z.strictObject({ kind: z.literal('group'), group: lineText().min(1).max(200) }),
  z.strictObject({ kind: z.literal('round'), roundId: z.int().positive() }),
  z.strictObject({
    kind: z.literal('changes'),
    changeIds: z.array(z.int().positive()).min(1, 'Choose at least one change.').max(500),
  }),
]);
export type ReportScope = z.infer<typeof reportScopeSchema>;

const LOGO = /^data:image\/(?:png|jpeg|webp);base64,[A-Za-z0-9+/]+={0,2}$/;
/** A logo is small: a picture of some hundred points. */
const MOST_LOGO = 280_000;

/** A picture as a data address. */
export const logoSchema = z
  .string()
  .max(MOST_LOGO, 'The logo is too large: at most 200 kB.')
  .regex(LOGO, 'A logo is a PNG, JPEG or WebP picture.');

export const reportWordsSchema = z.partialRecord(
  z.enum(REPORT_PART_KEYS as [ReportPartKey, ...ReportPartKey[]]),
  z.strictObject({ before: z.string().max(10_000), after: z.string().max(10_000) }),
);

/** One of one's own remarks in a report: the part that it stands by, and on which side. */
export const remarkSchema = z.strictObject({
  part: z.enum(REPORT_PART_KEYS as [ReportPartKey, ...ReportPartKey[]]),
  place: z.enum(['before', 'after']),
});
export type Remark = z.infer<typeof remarkSchema>;

/** The remarks of a report that say something, with their texts. */
export function remarksOf(words: ReportWords): (Remark & { readonly text: string })[] {
  return REPORT_PART_KEYS.flatMap((part) =>
    (['before', 'after'] as const).flatMap((place) => {
      const text = words[part]?.[place].trim() ?? '';
      return text === '' ? [] : [{ part, place, text }];
    }),
  );
}

/** Words without some of their remarks. */
export function withoutRemarks(words: ReportWords, dropped: readonly Remark[]): ReportWords {
  return Object.fromEntries(
    Object.entries(words).map(([part, own]) => [
      part,
      Object.fromEntries(
        Object.entries(own).map(([place, text]) => [
          place,
          dropped.some((one) => one.part === part && one.place === place) ? '' : text,
        ]),
      ),
    ]),
  ) as ReportWords;
}

export const newReportSchema = z
  .strictObject({
    title: lineText().min(1, 'The report needs a title.').max(200, 'At most 200 characters.'),
    from: isoDaySchema,
    to: isoDaySchema,
    scope: reportScopeSchema.default({ kind: 'site' }),
    parts: z
      .array(z.enum(REPORT_PART_KEYS as [ReportPartKey, ...ReportPartKey[]]))
      .min(1, 'Choose at least one part.')
      .transform((parts) => [...new Set(parts)])
      .default(REPORT_PART_KEYS)
      .meta({ description: 'The parts in the order in which they stand.' }),
    leaveOut: z
      .array(z.enum(Object.keys(LEFT_OUT) as [LeftOutOfReport, ...LeftOutOfReport[]]))
      .default([])
      .meta({ description: 'What a reader from outside is not to see.' }),
    words: reportWordsSchema.default({}),
    ink: z.enum(Object.keys(REPORT_INKS) as [ReportInk, ...ReportInk[]]).default('ink'),
    logo: logoSchema
      .nullish()
      .transform((logo) => logo ?? null)
      .meta({ description: 'A PNG, JPEG or WebP picture as a data address.' }),
  })
  .superRefine(({ from, to }, context) => {
    const [first, last] = [parseIsoDay(from), parseIsoDay(to)];
    if (first === null || last === null) return;
    if (last < first)
      context.addIssue({ code: 'custom', path: ['to'], message: 'The last day comes before the first.' });
    else if (last - first + 1 > MOST_SPAN_DAYS)
      context.addIssue({ code: 'custom', path: ['to'], message: `At most ${MOST_SPAN_DAYS} days.` });
  });
export type NewReport = z.output<typeof newReportSchema>;

/** A stored report. */
export type Report = {
  readonly id: number;
  readonly siteId: number;
  readonly title: string;
  readonly firstDay: Day;
  readonly lastDay: Day;
  readonly scope: ReportScope;
  readonly parts: readonly ReportPartKey[];
  readonly leaveOut: readonly LeftOutOfReport[];
  readonly words: ReportWords;
  readonly ink: ReportInk;
  readonly logo: string | null;
};

/** A stored report as its form sends it. */
export function inputOfReport(report: Report): NewReport {
  const { title, firstDay, lastDay, scope, parts, leaveOut, words, ink, logo } = report;
  return {
    ...{ title, from: isoDay(firstDay), to: isoDay(lastDay), scope, words, ink, logo },
    ...{ parts: [...parts], leaveOut: [...leaveOut] },
  };
}
