import { markDeleted } from '../markDeleted';
import { and, desc, eq, isNull, max } from 'drizzle-orm';
import { asDay, parseIsoDay, type Day } from '../../core/calendar/day';
import { inputOfReport, type NewReport, type Report } from '../../core/model/report';
import type { ReportInk, ShownReport } from '../../core/model/reportContent';
import { today } from '../clock';
import { setAuditTarget } from '../acting';
import type { Db } from '../database';
import { InputError } from '../inputError';
import { findChange } from '../ledger/findChanges';
import { findRound } from '../rounds/rounds';
import { report, reportIssue } from '../schema';
import { timestamp, write, type Guard } from '../write';

const asReport = (row: typeof report.$inferSelect): Report => ({
  ...{ id: row.id, siteId: row.siteId, title: row.title, logo: row.logo, ink: row.ink as ReportInk },
  ...{ firstDay: asDay(row.firstDay), lastDay: asDay(row.lastDay) },
  scope: JSON.parse(row.scope) as Report['scope'],
  parts: JSON.parse(row.parts) as Report['parts'],
  leaveOut: JSON.parse(row.leaveOut) as Report['leaveOut'],
  words: JSON.parse(row.words) as Report['words'],
});

const columnsOf = ({ title, from, to, scope, parts, leaveOut, words, ink, logo }: NewReport) => ({
  ...{ title, ink, logo, firstDay: parseIsoDay(from)!, lastDay: parseIsoDay(to)! },
  ...{ scope: JSON.stringify(scope), parts: JSON.stringify(parts) },
  ...{ leaveOut: JSON.stringify(leaveOut), words: JSON.stringify(words) },
});

/** The reports of a site that were not deleted, the last made first. */
export function listReports(db: Db, siteId: number): Report[] {
  return db
    .select()
    .from(report)
    .where(and(eq(report.siteId, siteId), isNull(report.deletedAt)))
    .orderBy(desc(report.id))
    .all()
    .map(asReport);
}

/** One report; null where there is none, or it was deleted. */
export function findReport(db: Db, id: number): Report | null {
  const row = db
    .select()
    .from(report)
    .where(and(eq(report.id, id), isNull(report.deletedAt)))
    .get();
  return row ? asReport(row) : null;
}

const NO_ROUND = 'There is no such experiment on this site.';
const NO_CHANGE = 'There is no such change on this site.';

/** Throws InputError where a report is about what the site does not have. */
function checkScope(db: Db, siteId: number, { scope }: NewReport): void {
  if (scope.kind === 'round' && findRound(db, scope.roundId)?.siteId !== siteId)
    throw new InputError('scope.roundId', NO_ROUND);
  if (scope.kind !== 'changes') return;
  scope.changeIds.forEach((id, i) => {
    if (findChange(db, id)?.siteId !== siteId) throw new InputError(`scope.changeIds.${i}`, NO_CHANGE);
  });
}

/** Keeps a report and gives its number. Throws InputError. */
export async function addReport(db: Db, siteId: number, given: NewReport): Promise<number> {
  return write(db, () => {
    checkScope(db, siteId, given);
    const { id } = db
      .insert(report)
      .values({ siteId, ...columnsOf(given), createdAt: timestamp() })
      .returning({ id: report.id })
      .get();
    return setAuditTarget('report', id, given.title);
  });
}

/**
 * Edits a report, from what it says now; what was sent of it stays as it was. Throws InputError.
 */
export async function saveReport(
  db: Db,
  id: number,
  edit: (now: NewReport) => NewReport,
  guard: Guard = () => undefined,
): Promise<void> {
  await write(db, () => {
    guard();
    const now = findReport(db, id);
    if (!now) throw new InputError('root', 'The report was deleted meanwhile; put it back first.', 409);
    const given = edit(inputOfReport(now));
    checkScope(db, now.siteId, given);
    db.update(report).set(columnsOf(given)).where(eq(report.id, id)).run();
  });
}

/** Deletes a report, or puts it back; of one site only where that is said. */
export async function setReportDeleted(
  db: Db,
  id: number,
  deleted: boolean,
  guard: Guard = () => undefined,
  ofSite: number | null = null,
): Promise<boolean> {
  return write(db, () => {
    guard();
    return markDeleted(db, report, id, deleted, ofSite);
  });
}

/** An issue of a report without what it showed. */
export type ReportIssue = { readonly number: number; readonly day: Day };

/** The issues of a report, the last first. */
export function issuesOf(db: Db, reportId: number): ReportIssue[] {
  return db
    .select({ number: reportIssue.number, day: reportIssue.day })
    .from(reportIssue)
    .where(eq(reportIssue.reportId, reportId))
    .orderBy(desc(reportIssue.number))
    .all()
    .map(({ number, day }) => ({ number, day: asDay(day) }));
}

/** What an issue showed; null where there is none of that number. */
export function findIssue(db: Db, reportId: number, number: number): ShownReport | null {
  const row = db
    .select({ shown: reportIssue.shown })
    .from(reportIssue)
    .where(and(eq(reportIssue.reportId, reportId), eq(reportIssue.number, number)))
    .get();
  return row ? (JSON.parse(row.shown) as ShownReport) : null;
}

/** Keeps a report as it is sent, as its next issue, and gives the issue's number. `make` is given that number. */
export async function issueReport(
  db: Db,
  reportId: number,
  make: (number: number, day: Day) => ShownReport,
): Promise<number> {
  return write(db, () => {
    const last = db
      .select({ number: max(reportIssue.number) })
      .from(reportIssue)
      .where(eq(reportIssue.reportId, reportId))
      .get();
    const number = (last?.number ?? 0) + 1;
    const day = today();
    db.insert(reportIssue)
      .values({ reportId, number, day, shown: JSON.stringify(make(number, day)), at: timestamp() })
      .run();
    return number;
  });
}
