import type { Metadata } from 'next';
import Link from 'next/link';
import { Suspense } from 'react';
import { pagePath } from '@/core/address/address';
import { lastSpans, type Span } from '@/core/calendar/span';
import { compareTotals, type Metrics } from '@/core/measures/comparison';
import { NO_FIGURES } from '@/core/measures/totals';
import { lastReadableDay } from '@/core/reading/readable';
import type { Site } from '@/core/model/site';
import { datedSpan, spanText } from '@/core/words/format';
import { listChanges } from '@/store/changes';
import type { Db } from '@/store/database';
import { coveredDaysIn, siteCoverage, siteTotals } from '@/store/figures';
import { listPages } from '@/store/pages';
import { periodBefore, periodsOf, periodTotals } from '@/store/periods';
import { watchedPages } from '@/store/snapshots';
import { PageTable, type PageLine } from '@/ui/pages/PageTable';
import { PeriodChoice, periodKey } from '@/ui/pages/PeriodChoice';
import { Screen } from '@/ui/parts/Screen';
import { routes } from '@/ui/shell/routes';
import { siteFromPath, type SitePageProps } from '../site';
import { watch } from './actions';

export const metadata: Metadata = { title: 'Pages' };

const DAYS = 28;

type Props = SitePageProps & { searchParams: Promise<{ period?: string | string[] }> };

export default async function PagesPage({ params, searchParams }: Props) {
  const { db, site } = siteFromPath((await params).siteId);
  const coverage = siteCoverage(db, site.id);
  const periods = periodsOf(db, site.id);
  const asked = (await searchParams).period;
  const period = periods.find((one) => periodKey(one) === asked) ?? (coverage ? null : periods[0]);
  if (period)
    return <PeriodPages db={db} site={site} periods={periods} period={period} daily={coverage !== null} />;
  if (!coverage) {
    return (
      <Screen title="Pages">
        <p className="font-serif text-lg">There are no figures yet.</p>
        <Link href={routes.intake(site.id)} prefetch={false} className="btn btn-primary btn-sm mt-3">
          Bring figures in
        </Link>
      </Screen>
    );
  }
  const { before, after } = lastSpans(lastReadableDay(coverage, site.provisionalDays), DAYS);
  const [totalsBefore, totalsAfter] = siteTotals(db, site.id, [before, after]);
  // A page without a row on days that the site has figures for was not shown; without such days nothing is known.
  const unseen = (span: typeof after) => (coveredDaysIn(db, site.id, span).size > 0 ? NO_FIGURES : null);
  const [noneBefore, noneAfter] = [unseen(before), unseen(after)];

  const lines = linesOf(db, site, (id) =>
    compareTotals(totalsBefore?.get(id) ?? noneBefore, totalsAfter?.get(id) ?? noneAfter),
  );
  return (
    <Screen
      title="Pages"
      lead={`${spanText(after)}, and the difference to the ${DAYS} days before, ${spanText(before)}.`}
    >
      {periods.length > 0 && <PeriodChoice siteId={site.id} periods={periods} chosen={null} daily />}
      <Suspense>
        <PageTable siteId={site.id} lines={lines} watch={watch} />
      </Suspense>
    </Screen>
  );
}

type PeriodProps = { db: Db; site: Site; periods: readonly Span[]; period: Span; daily: boolean };

/** The pages by totals of a period, which were brought in without days. */
function PeriodPages({ db, site, periods, period, daily }: PeriodProps) {
  const before = periodBefore(periods, period);
  const totals = periodTotals(db, site.id, period);
  const totalsBefore = before && periodTotals(db, site.id, before);
  const lines = linesOf(db, site, (id) =>
    compareTotals(totalsBefore?.get(id) ?? null, totals.get(id) ?? null),
  ).filter(({ metrics }) => metrics.clicks.after !== null);
  return (
    <Screen
      title="Pages"
      lead={`Totals of the period ${datedSpan(period)} as they were brought in, not daily figures; ${
        before
          ? `the difference is to the totals of ${datedSpan(before)}`
          : 'there are none of the period before it'
      }.`}
    >
      <PeriodChoice siteId={site.id} periods={periods} chosen={period} daily={daily} />
      <Suspense>
        <PageTable siteId={site.id} lines={lines} watch={watch} />
      </Suspense>
    </Screen>
  );
}

function linesOf(db: Db, site: Site, metricsOf: (pageId: number) => Metrics): PageLine[] {
  const changesOf = new Map<number, PageLine['changes'][number][]>();
  for (const { id, day, title, pages } of listChanges(db, site.id)) {
    for (const page of pages) changesOf.set(page.id, [...(changesOf.get(page.id) ?? []), { id, day, title }]);
  }
  const watched = watchedPages(db, site.id);
  return listPages(db, site.id).map((page) => ({
    id: page.id,
    watched: watched.has(page.id),
    path: pagePath(page.address),
    metrics: metricsOf(page.id),
    changes: changesOf.get(page.id) ?? [],
  }));
}
