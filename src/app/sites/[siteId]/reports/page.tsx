import type { Metadata } from 'next';
import { AppLink } from '@/ui/kit/AppLink';
import { mediumDay, spanText } from '@/core/words/format';
import { issuesOf, listReports } from '@/store/reports/reports';
import { RowKeys } from '@/ui/kit/RowKeys';
import { Screen } from '@/ui/kit/Screen';
import { routes } from '@/ui/shell/routes';
import { siteFromPath, type SitePageProps } from '../site';
import { FormLink } from '@/ui/shell/May';

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
          <table className="figures text-[0.93rem]">
            <thead>
              <tr>
                <th scope="col">report</th>
                <th scope="col" className="text-left!">
                  days
                </th>
                <th scope="col" className="text-left!">
                  sent
                </th>
              </tr>
            </thead>
            <tbody>
              {reports.map((report) => {
                const [last] = issuesOf(db, report.id);
                return (
                  <tr key={report.id} data-row>
                    <th scope="row" className="whitespace-normal!">
                      <AppLink
                        href={routes.report(site.id, report.id)}
                        className="text-base-content hover:underline"
                      >
                        {report.title}
                      </AppLink>
                    </th>
                    <td className="text-left!">{spanText(report)}</td>
                    <td className="text-left!">
                      {last ? `issue ${last.number}, ${mediumDay(last.day)}` : 'not yet'}
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </RowKeys>
      )}
    </Screen>
  );
}
