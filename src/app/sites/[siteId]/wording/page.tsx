import type { Metadata } from 'next';
import { AppLink } from '@/ui/kit/AppLink';
import { compareDays, daysSentence } from '@/core/wording/days';
import { mediumDay, plural } from '@/core/words/format';
import { reachResults } from '@/jobs/outsideWorld';
import { ownResult } from '@/services/wording/resultPages';
import { findResultPage, lookedUpQueries, resultPagesOf } from '@/store/wording/resultPages';
import { RowKeys } from '@/ui/kit/RowKeys';
import { Screen } from '@/ui/kit/Screen';
import { routes } from '@/ui/shell/routes';
import { LookUp } from '@/ui/wording/LookUp';
import { siteFromPath, type SitePageProps } from '../site';
import { lookUp } from './actions';
import { FormLink, IfMay } from '@/ui/shell/May';
import { FiguresTable } from '@/ui/kit/table/FiguresTable';

export const metadata: Metadata = { title: 'Wording' };

/** The queries whose results were looked at, with what changed since the look before. */
export default async function WordingPage({ params }: SitePageProps) {
  const { db, site } = await siteFromPath((await params).siteId);
  const queries = lookedUpQueries(db, site.id);
  const lines = queries.map((looked) => {
    const page = findResultPage(db, looked.newest)!;
    const before = resultPagesOf(db, site.id, [looked.query.id]).find(
      ({ day, device }) => day < page.day && device === page.device,
    );
    return {
      ...looked,
      own: ownResult(site, page),
      since: before ? daysSentence(compareDays(before, page)) : null,
    };
  });
  const source = reachResults(db, site) !== null;
  return (
    <Screen
      title="Wording"
      lead="What searches showed, day by day: how the other results word it, what they have in common, and drafts of your own held against them."
      aside={
        <div className="flex flex-wrap items-center gap-4">
          {source && <LookUp siteId={site.id} look={lookUp} />}
          <FormLink right="edit" href={routes.pageDrafts(site.id)} className="inline-link text-[0.85rem]">
            Drafts for several pages
          </FormLink>
          <FormLink right="edit" href={routes.newResultPage(site.id)} className="btn btn-primary btn-sm">
            Bring results in
          </FormLink>
        </div>
      }
    >
      {queries.length === 0 ? (
        <p>
          No result page yet.{' '}
          <IfMay right="edit">
            Search for a query that matters, copy the results, and{' '}
            <AppLink href={routes.newResultPage(site.id)} className="inline-link">
              paste them here
            </AppLink>
            ; scripts can send them, and Settings take the address of a source.
          </IfMay>
        </p>
      ) : (
        <RowKeys>
          <FiguresTable
            label="Queries that were looked up"
            className="dense max-w-6xl text-[0.9rem]"
            rows={lines}
            rowKey={({ query }) => query.id}
            columns={[
              {
                id: 'query',
                cellClass: 'max-w-64 truncate',
                value: ({ query }) => query.text,
                cell: ({ query, newest }) => (
                  <AppLink href={routes.resultPage(site.id, newest)} className="hover:underline">
                    {query.text}
                  </AppLink>
                ),
              },
              {
                id: 'rank',
                lowFirst: true,
                value: ({ own }) => own?.rank ?? null,
                cell: ({ own }) => own?.rank ?? '–',
              },
              {
                id: 'shown as',
                text: true,
                cellClass: 'max-w-80 truncate',
                value: ({ own }) => own?.title ?? null,
                cell: ({ own }) => own?.title ?? <span className="muted">not among them</span>,
              },
              {
                id: 'looked up',
                text: true,
                value: ({ lastDay }) => lastDay,
                cell: ({ lastDay, looks }) => (
                  <>
                    {mediumDay(lastDay)} <span className="muted">({plural(looks, 'look')})</span>
                  </>
                ),
              },
              {
                id: 'since the look before',
                text: true,
                cellClass: 'whitespace-normal!',
                cell: ({ since }) => since ?? <span className="muted">the first</span>,
              },
            ]}
          />
        </RowKeys>
      )}
    </Screen>
  );
}
