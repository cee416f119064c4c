import type { Metadata } from 'next';
import { AppLink } from '@/ui/kit/AppLink';
import { mediumDay, spanText } from '@/core/words/format';
import { issuesOf, listReports } from '@/store/reports/reports';
import { RowKeys } from '@/ui/kit/RowKeys';
import { Screen } from '@/ui/kit/Screen';
import { routes } from '@/ui/shell/routes';
import { siteFromPath, type SitePageProps } from '../site';
import { FormLink } from '@/ui/shell/May';
import { FiguresTable } from '@/ui/kit/table/FiguresTable';

export const metadata: Metadata = { title: 'Reports' };

/** The reports of a site: what was done, and what came of it, for whoever asks. */
export default async function ReportsPage({ params }: SitePageProps) {
  const { db, site } = await siteFromPath((await params).siteId);
  const reports = listReports(db, site.id);
  return (
    <Screen
      title="Reports"
      lead="What was done and what came of it, in sentences that a client can read. What was sent stays as it was sent."
      aside={
        <FormLink right="edit" href={routes.newReport(site.id)} className="btn btn-primary btn-sm">
          Make a report
        </FormLink>
      }
    >
      {reports.length === 0 ? (
        <p>None yet. A report takes a title, its days, and a choice of parts.</p>
      ) : (
        <RowKeys>
          <FiguresTable
            label="Reports"
            className="text-[0.93rem]"
            rows={reports.map((report) => ({ ...report, last: issuesOf(db, report.id)[0] }))}
            rowKey={({ id }) => id}
            columns={[
              {
                id: 'report',
                cellClass: 'min-w-48 whitespace-normal!',
                value: ({ title }) => title,
                cell: ({ id, title }) => (
                  <AppLink href={routes.report(site.id, id)} className="hover:underline">
                    {title}
                  </AppLink>
                ),
              },
              { id: 'days', text: true, value: ({ firstDay }) => firstDay, cell: spanText },
              {
                id: 'sent',
                text: true,
                value: ({ last }) => last?.day ?? null,
                cell: ({ last }) => (last ? `issue ${last.number}, ${mediumDay(last.day)}` : 'not yet'),
              },
            ]}
          />
        </RowKeys>
      )}
    </Screen>
  );
}
