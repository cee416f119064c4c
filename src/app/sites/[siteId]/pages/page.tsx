import type { Metadata } from 'next';
import Link from 'next/link';
import { Suspense } from 'react';
import { pagePath } from '@/core/address/address';
import { addDays } from '@/core/calendar/day';
import { compareTotals } from '@/core/measures/comparison';
import { NO_FIGURES } from '@/core/measures/totals';
import { lastReadableDay } from '@/core/reading/readable';
import { spanText } from '@/core/words/format';
import { listChanges } from '@/store/changes';
import { coveredDaysIn, siteCoverage, siteTotals } from '@/store/figures';
import { listPages } from '@/store/pages';
import { PageTable, type PageLine } from '@/ui/pages/PageTable';
import { Screen } from '@/ui/parts/Screen';
import { routes } from '@/ui/shell/routes';
import { siteFromPath, type SitePageProps } from '../site';

export const metadata: Metadata = { title: 'Pages' };

const DAYS = 28;

export default async function PagesPage({ params }: SitePageProps) {
  const { db, site } = siteFromPath((await params).siteId);
  const coverage = siteCoverage(db, site.id);
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
  const lastDay = lastReadableDay(coverage, site.provisionalDays);
  const after = { firstDay: addDays(lastDay, 1 - DAYS), lastDay };
  const before = { firstDay: addDays(after.firstDay, -DAYS), lastDay: addDays(after.firstDay, -1) };
  const [totalsBefore, totalsAfter] = [siteTotals(db, site.id, before), siteTotals(db, site.id, after)];
  // A page without a row on days that the site has figures for was not shown; without such days nothing is known.
  const unseen = (span: typeof after) => (coveredDaysIn(db, site.id, span).size > 0 ? NO_FIGURES : null);
  const [noneBefore, noneAfter] = [unseen(before), unseen(after)];

  const changesOf = new Map<number, PageLine['changes'][number][]>();
  for (const { id, day, title, pages } of listChanges(db, site.id)) {
    for (const page of pages) changesOf.set(page.id, [...(changesOf.get(page.id) ?? []), { id, day, title }]);
  }
  const lines = listPages(db, site.id).map((page): PageLine => ({
    path: pagePath(page.address),
    metrics: compareTotals(totalsBefore.get(page.id) ?? noneBefore, totalsAfter.get(page.id) ?? noneAfter),
    changes: changesOf.get(page.id) ?? [],
  }));
  return (
    <Screen
      title="Pages"
      lead={`${spanText(after)}, and the difference to the ${DAYS} days before, ${spanText(before)}.`}
    >
      <Suspense>
        <PageTable siteId={site.id} lines={lines} />
      </Suspense>
    </Screen>
  );
}
