import type { Metadata } from 'next';
import Link from 'next/link';
import { Suspense } from 'react';
import type { Span } from '@/core/calendar/span';
import { datedSpan, spanText } from '@/core/words/format';
import { expectedLately } from '@/jobs/expected';
import { LIST_DAYS, periodPageList, recentPageList } from '@/services/pageList';
import { SiteContext } from '@/services/siteContext';
import { periodsOf } from '@/store/figures/periods';
import { PageTable } from '@/ui/pages/PageTable';
import { PeriodChoice, periodKey } from '@/ui/pages/PeriodChoice';
import { Screen } from '@/ui/parts/Screen';
import { routes } from '@/ui/shell/routes';
import { siteFromPath, type SitePageProps } from '../site';
import { watch } from './actions';

export const metadata: Metadata = { title: 'Pages' };

type Props = SitePageProps & { searchParams: Promise<{ period?: string | string[] }> };

export default async function PagesPage({ params, searchParams }: Props) {
  const { db, site } = siteFromPath((await params).siteId);
  const context = new SiteContext(db, site);
  const daily = context.coverage !== null;
  const periods = periodsOf(db, site.id);
  const asked = (await searchParams).period;
  const period = periods.find((one) => periodKey(one) === asked) ?? (daily ? null : periods[0]);
  if (period) return <PeriodPages context={context} periods={periods} period={period} daily={daily} />;
  const list = recentPageList(context, await expectedLately(context));
  if (!list) {
    return (
      <Screen title="Pages">
        <p className="font-serif text-lg">There are no figures yet.</p>
        <Link href={routes.intake(site.id)} prefetch={false} className="btn btn-primary btn-sm mt-3">
          Bring figures in
        </Link>
      </Screen>
    );
  }
  return (
    <Screen
      title="Pages"
      lead={`${spanText(list.after)}, and the difference to the ${LIST_DAYS} days before, ${spanText(list.before)}.`}
    >
      {periods.length > 0 && <PeriodChoice siteId={site.id} periods={periods} chosen={null} daily />}
      <Suspense>
        <PageTable siteId={site.id} lines={list.lines} watch={watch} />
      </Suspense>
    </Screen>
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
