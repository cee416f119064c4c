import type { Metadata } from 'next';
import { addDays, isoDay } from '@/core/calendar/day';
import { REPORT_PART_KEYS } from '@/core/model/reportContent';
import { today } from '@/store/clock';
import { Screen } from '@/ui/kit/Screen';
import { ReportForm } from '@/ui/reports/ReportForm';
import { siteFromPath, type SitePageProps } from '../../site';
import { makeReport } from '../actions';
import { changesOffered, scopesOf } from '../form';

export const metadata: Metadata = { title: 'Make a report' };

/** Days that a report is of where nobody says otherwise. */
const USUAL_DAYS = 91;

export default async function NewReportPage({ params }: SitePageProps) {
  const { db, site } = await siteFromPath((await params).siteId, 'edit');
  return (
    <Screen title="Make a report">
      <ReportForm
        siteId={site.id}
        scopes={scopesOf(db, site)}
        changes={changesOffered(db, site)}
        what={`report:new:${site.id}`}
        initial={{
          ...{
            title: '',
            from: isoDay(addDays(today(site.timeZone), -USUAL_DAYS)),
            to: isoDay(today(site.timeZone)),
          },
          ...{ scope: { kind: 'site' }, parts: [...REPORT_PART_KEYS], leaveOut: [], words: {} },
          ...{ ink: 'ink', logo: null },
        }}
        save={{ make: makeReport.bind(null, site.id) }}
        button="Make it"
      />
    </Screen>
  );
}
