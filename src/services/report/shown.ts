import type { Report } from '../../core/model/report';
import { changedSince } from '../../core/report/changed';
import type { ReportContent, ShownReport } from '../../core/model/reportContent';
import type { Db } from '../../store/database';
import { findIssue, issuesOf } from '../../store/reports/reports';

/** A report as it would be sent now: its content with one's own words, and what changed since it was sent last. */
export function shownReport(
  db: Db,
  { id, words, ink, logo }: Pick<Report, 'id' | 'words' | 'ink' | 'logo'>,
  content: ReportContent,
): ShownReport {
  const [last] = issuesOf(db, id);
  const sent = last ? findIssue(db, id, last.number) : null;
  return {
    ...{ content, words, ink, logo, issue: null },
    changed: sent ? changedSince(sent.content, content) : [],
  };
}
