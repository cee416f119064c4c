'use server';

import { z } from 'zod';
import { action } from '@/app/action';
import { foundOr404, Problem } from '@/app/problem';
import { EditedMeanwhile, mergedEdit } from '@/app/formResult';
import { newReportSchema, remarkSchema, withoutRemarks, type NewReport } from '@/core/model/report';
import { REPORT_PART_KEYS } from '@/core/model/reportContent';
import { ask } from '@/app/ask';
import { checkLogo } from '@/services/report/logo';
import { shownReport } from '@/services/report/shown';
import { addReport, issueReport, saveReport, setReportDeleted } from '@/store/reports/reports';

/** Keeps a new report and gives its number. */
export const makeReport = action(
  { on: 'site', may: 'edit', auditAction: 'made a report' },
  [newReportSchema],
  async ({ db, site }, given) => {
    checkLogo(given.logo);
    return addReport(db, site.id, given);
  },
);

/** Each part's words are a field of their own: two people may write beside different parts. */
const wordsApart = ({ words, ...rest }: NewReport) => ({
  ...rest,
  ...Object.fromEntries(REPORT_PART_KEYS.map((part) => [`${WORDS}${part}`, words[part] ?? null])),
});
const WORDS = 'words.';

/**
 * A report with what one edit changed of it. Throws EditedMeanwhile, with the words as one field.
 */
function mergedReport(given: NewReport, base: NewReport, now: NewReport): NewReport {
  try {
    const merged = mergedEdit(wordsApart(given), wordsApart(base), wordsApart(now)) as Record<
      string,
      unknown
    >;
    const words = REPORT_PART_KEYS.map((part) => [part, merged[`${WORDS}${part}`]] as const);
    return {
      ...(merged as unknown as Omit<NewReport, 'words'>),
      words: Object.fromEntries(words.filter(([, own]) => own)) as NewReport['words'],
    };
  } catch (error) {
    if (!(error instanceof EditedMeanwhile)) throw error;
    const fields = error.meanwhile.fields.map((field) => field.split('.', 1)[0]!);
    throw new EditedMeanwhile({ fields: [...new Set(fields)], now });
  }
}

/** Edits a report from what it said when that began; gives its number. */
export const editReport = action(
  { on: 'report', may: 'edit', auditAction: 'edited a report' },
  [newReportSchema, newReportSchema],
  async ({ db, report }, given, base) => {
    checkLogo(given.logo);
    await saveReport(db, report.id, (now) => mergedReport(given, base, now));
    return report.id;
  },
);

/** Keeps a report as it is sent, without some of its remarks; gives the number of the issue. */
export const sendReport = action(
  { on: 'report', may: 'edit', auditAction: 'kept a report as sent' },
  [z.array(remarkSchema).max(100)],
  async ({ db, report }, dropped) => {
    const content = await ask('report', { siteId: report.siteId, reportId: report.id });
    if (!content) throw new Problem(409, 'There are no figures to report on yet.');
    return issueReport(db, report.id, (number, day) => ({
      ...shownReport(db, { ...report, words: withoutRemarks(report.words, dropped) }, content),
      issue: { number, day },
    }));
  },
);

/** Deletes a report. */
export const dropReport = action(
  { on: 'report', may: 'edit', auditAction: 'deleted a report' },
  [],
  async ({ db, report }) => {
    await setReportDeleted(db, report.id, true);
    return null;
  },
);

/** Puts a report back. */
export const putBackReport = action(
  { on: 'site', may: 'edit', auditAction: 'put a report back' },
  [z.int().positive()],
  async ({ db, site }, id) => {
    return foundOr404(await setReportDeleted(db, id, false, () => undefined, site.id), 'report');
  },
);
