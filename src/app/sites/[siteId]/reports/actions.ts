'use server';

import { z } from 'zod';
import { action } from '@/app/action';
import { Problem } from '@/app/problem';
import { newReportSchema, remarkSchema, withoutRemarks } from '@/core/model/report';
import { ask } from '@/app/ask';
import { checkLogo } from '@/services/report/logo';
import { shownReport } from '@/services/report/shown';
import { addReport, issueReport, saveReport, setReportDeleted } from '@/store/reports/reports';

/** Keeps a new report and gives its number. */
export const makeReport = action(
  { on: 'site', may: 'edit', did: 'made a report' },
  [newReportSchema],
  async ({ db, site }, given) => {
    checkLogo(given.logo);
    return addReport(db, site.id, given);
  },
);

/** Makes a report anew; gives its number. */
export const editReport = action(
  { on: 'report', may: 'edit', did: 'edited a report' },
  [newReportSchema],
  async ({ db, report }, given) => {
    checkLogo(given.logo);
    await saveReport(db, report.id, given);
    return report.id;
  },
);

/** Keeps a report as it is sent, without some of its remarks; gives the number of the issue. */
export const sendReport = action(
  { on: 'report', may: 'edit', did: 'kept a report as sent' },
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
  { on: 'report', may: 'edit', did: 'deleted a report' },
  [],
  async ({ db, report }) => {
    await setReportDeleted(db, report.id, true);
    return null;
  },
);

/** Puts a report back. */
export const putBackReport = action(
  { on: 'site', may: 'edit', did: 'put a report back' },
  [z.int().positive()],
  async ({ db, site }, id) => {
    await setReportDeleted(db, id, false, () => undefined, site.id);
    return null;
  },
);
