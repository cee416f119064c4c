import type { Metadata } from 'next';
import { AppLink } from '@/ui/kit/AppLink';
import { notFound } from 'next/navigation';
import { mediumDay } from '@/core/words/format';
import { IfMay } from '@/ui/shell/May';
import { ThingParts } from '../../people/ThingParts';
import { ask } from '@/app/ask';
import { remarksOf } from '@/core/model/report';
import { REPORT_PARTS } from '@/core/model/reportContent';
import { shownReport } from '@/services/report/shown';
import { findIssue, findReport, issuesOf } from '@/store/reports/reports';
import { PrintButton } from '@/ui/reports/PrintButton';
import { ReportActions } from '@/ui/reports/ReportActions';
import { ReportView } from '@/ui/reports/ReportView';
import { routes } from '@/ui/shell/routes';
import { siteFromPath } from '../../site';
import { dropReport, putBackReport, sendReport } from '../actions';

export const metadata: Metadata = { title: 'Report' };

type Props = {
  params: Promise<{ siteId: string; reportId: string }>;
  searchParams: Promise<{ issue?: string | string[] }>;
};
const FORMS = [
  ['html', 'HTML'],
  ['md', 'Markdown'],
  ['xlsx', 'XLSX'],
  ['json', 'JSON'],
] as const;

/** A report to read, print and save: as its figures stand now, or as an issue of it was sent. */
export default async function ReportPage({ params, searchParams }: Props) {
  const { siteId, reportId } = await params;
  const { db, site } = await siteFromPath(siteId);
  const report = /^\d{1,15}$/.test(reportId) ? findReport(db, Number(reportId)) : null;
  if (report?.siteId !== site.id) notFound();
  const wished = (await searchParams).issue;
  const issues = issuesOf(db, report.id);
  const issue = issues.find(({ number }) => String(number) === wished) ?? null;
  const content = issue ? null : await ask('report', { siteId: report.siteId, reportId: report.id });
  const shown = issue ? findIssue(db, report.id, issue.number) : content && shownReport(db, report, content);
  return (
    <main id="main" className="min-w-0 flex-1 px-5 pt-3 pb-10 wide:h-screen wide:overflow-y-auto wide:px-7">
      <div className="mb-4 flex flex-wrap items-baseline gap-x-4 gap-y-1 text-[0.9rem] print:hidden">
        <AppLink href={routes.reports(site.id)} className="inline-link">
          Reports
        </AppLink>
        <h1 className="sr-only">{report.title}</h1>
        {issues.length > 0 && (
          <nav aria-label="Issues" className="flex flex-wrap gap-x-3">
            <AppLink
              href={routes.report(site.id, report.id)}
              aria-current={issue ? undefined : 'page'}
              className={issue ? 'inline-link' : 'font-bold'}
            >
              as it stands now
            </AppLink>
            {issues.map(({ number, day }) => (
              <AppLink
                key={number}
                href={routes.report(site.id, report.id, number)}
                aria-current={issue?.number === number ? 'page' : undefined}
                className={issue?.number === number ? 'font-bold' : 'inline-link'}
              >
                issue {number}, {mediumDay(day)}
              </AppLink>
            ))}
          </nav>
        )}
        <span className="ml-auto flex flex-wrap gap-x-3">
          {shown && (
            <>
              <PrintButton />
              <span className="muted">save as</span>
              {FORMS.map(([format, name]) => (
                <a
                  key={format}
                  href={routes.reportFile(report.id, format, issue?.number)}
                  download
                  className="inline-link"
                >
                  {name}
                </a>
              ))}
            </>
          )}
          <IfMay right="edit">
            <AppLink href={routes.editReport(site.id, report.id)} className="inline-link">
              Edit
            </AppLink>
            <ReportActions
              siteId={site.id}
              reportId={report.id}
              sendable={issue === null && shown !== null}
              remarks={
                report.leaveOut.length === 0
                  ? []
                  : remarksOf(report.words).map((remark) => ({
                      ...remark,
                      heading: REPORT_PARTS[remark.part],
                    }))
              }
              send={sendReport}
              drop={dropReport}
              putBack={putBackReport}
            />
          </IfMay>
        </span>
      </div>
      {shown ? (
        <ReportView shown={shown} />
      ) : (
        <p className="font-serif text-lg">There are no figures to report on yet.</p>
      )}
      <ThingParts siteId={site.id} on="report" id={report.id} shared="report" />
    </main>
  );
}
