import type { Metadata } from 'next';
import { Suspense } from 'react';
import type { Parameters } from '@/core/lists/address';
import type { Span } from '@/core/calendar/span';
import { datedSpan } from '@/core/words/format';
import { periodPageList } from '@/services/pages/pageList';
import { SiteContext } from '@/services/site/siteContext';
import { periodsOf } from '@/store/figures/periods';
import { PageTable } from '@/ui/pages/PageTable';
import { PeriodChoice, periodKey } from '@/ui/pages/PeriodChoice';
import { Screen } from '@/ui/kit/Screen';
import { ListScreen } from '../lists/screen';
import { siteFromPath, type SitePageProps } from '../site';
import { watch } from './actions';

export const metadata: Metadata = { title: 'Pages' };

type Props = SitePageProps & { searchParams: Promise<Parameters> };

export default async function PagesPage({ params, searchParams }: Props) {
  const { db, site } = await siteFromPath((await params).siteId);
  const context = new SiteContext(db, site);
  const daily = context.coverage !== null;
  const periods = periodsOf(db, site.id);
  const parameters = await searchParams;
  const period =
    periods.find((one) => periodKey(one) === parameters['period']) ?? (daily ? null : periods[0]);
  if (period) return <PeriodPages context={context} periods={periods} period={period} daily={daily} />;
  return (
    <ListScreen
      context={context}
      subject="pages"
      parameters={parameters}
      above={periods.length > 0 && <PeriodChoice siteId={site.id} periods={periods} chosen={null} daily />}
    />
  );
}

type PeriodProps = { context: SiteContext; periods: readonly Span[]; period: Span; daily: boolean };

/** The pages by totals of a period, which were brought in without days. */
function PeriodPages({ context, periods, period, daily }: PeriodProps) {
  const { before, lines } = periodPageList(context, periods, period);
  const { id } = context.site;
  return (
    <Screen
      title="Pages"
      lead={`Totals of the period ${datedSpan(period)} as they were brought in, not daily figures; ${
        before
          ? `the difference is to the totals of ${datedSpan(before)}`
          : 'there are none of the period before it'
      }.`}
    >
      <PeriodChoice siteId={id} periods={periods} chosen={period} daily={daily} />
      <Suspense>
        <PageTable siteId={id} lines={lines} watch={watch} />
      </Suspense>
    </Screen>
  );
}
