import type { ReadingQuery } from '../../../services/reading/readChange';
import type { ReportContent } from '../../../core/model/reportContent';
import { buildReport } from '../../../services/report/build';
import { readingReport } from '../../../services/report/reading';
import { roundReport } from '../../../services/report/round';
import { readingWorking } from '../../../services/report/working';
import type { WorkSheet } from '../../../core/working/workSheet';
import type { Measure } from '../../../core/measures/registry';
import { findReport } from '../../../store/reports/reports';
import { findChange } from '../../../store/ledger/findChanges';
import { findRound } from '../../../store/rounds/rounds';
import type { OfSite } from '../ofSite';
import type { AnswerSources } from './sources';

/** Questions for what is handed on: reports, and the working of a reading. */
export function reportAnswers({ contextOf, db, engines, queryPages, books }: AnswerSources) {
  return {
    /** What a report says, as its figures stand now; null where it or its site is gone, or there are no figures. */
    report: ({ reportId }: OfSite & { reportId: number }): ReportContent | null => {
      const found = findReport(db, reportId);
      const context = found && contextOf(found.siteId);
      return found && context && buildReport(context, { engines, queryPages, books }, found);
    },

    /** A single reading as a report of one page; null where it is gone, or there are no figures. */
    readingReport: ({ changeId }: OfSite & { changeId: number }): ReportContent | null => {
      const change = findChange(db, changeId);
      const context = change && contextOf(change.siteId);
      return change && context && readingReport(context, { engines, queryPages, books }, change);
    },

    /** A round as a report of a page or two; null where it is gone, or there are no figures. */
    roundReport: ({ roundId }: OfSite & { roundId: number }): ReportContent | null => {
      const found = findRound(db, roundId);
      const context = found && contextOf(found.siteId);
      return found && context && roundReport(context, { engines, queryPages, books }, found);
    },

    /** The working of a reading as sheets of formulas; null where it is gone, or there is nothing to work out. */
    readingWorking: (
      asked: OfSite & { changeId: number; wish: ReadingQuery & { measure?: Measure | null } },
    ): WorkSheet[] | null => {
      const change = findChange(db, asked.changeId);
      const context = change && contextOf(change.siteId, asked.wish.asOf);
      return change && context && readingWorking(context, engines, change, asked.wish);
    },
  };
}
