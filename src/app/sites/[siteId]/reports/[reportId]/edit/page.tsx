import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { inputOfReport } from '@/core/model/report';
import { findReport } from '@/store/reports/reports';
import { Screen } from '@/ui/kit/Screen';
import { ReportForm } from '@/ui/reports/ReportForm';
import { siteFromPath } from '../../../site';
import { editReport } from '../../actions';
import { changesOffered, scopesOf } from '../../form';

export const metadata: Metadata = { title: 'A report made anew' };

type Props = { params: Promise<{ siteId: string; reportId: string }> };

export default async function EditReportPage({ params }: Props) {
  const { siteId, reportId } = await params;
  const { db, site } = await siteFromPath(siteId, 'edit');
  const report = /^\d{1,15}$/.test(reportId) ? findReport(db, Number(reportId)) : null;
  if (report?.siteId !== site.id) notFound();
  const { title, scope } = report;
  const scopes = scopesOf(db, site);
  const own = JSON.stringify(scope);
  return (
    <Screen title={title} lead="What was sent of it stays as it was sent.">
      <ReportForm
        siteId={site.id}
        scopes={
          scope.kind === 'changes' || scopes.some((one) => JSON.stringify(one.scope) === own)
            ? scopes
            : [{ name: 'as it was chosen', scope }, ...scopes]
        }
        changes={changesOffered(db, site)}
        what={`report:${report.id}`}
        initial={inputOfReport(report)}
        save={{ id: report.id, edit: editReport.bind(null, site.id, report.id) }}
        button="Keep it"
      />
    </Screen>
  );
}
