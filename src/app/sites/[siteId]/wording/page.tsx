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

export const metadata: Metadata = { title: 'Wording' };

/** The queries whose results were looked at, with what changed since the look before. */
export default async function WordingPage({ params }: SitePageProps) {
  const { db, site } = await siteFromPath((await params).siteId);
  const queries = lookedUpQueries(db, site.id);
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
          <div className="overflow-x-auto">
            <table className="figures dense w-full max-w-6xl text-[0.9rem]">
              <thead>
                <tr>
                  <th scope="col">query</th>
                  <th scope="col">rank</th>
                  <th scope="col" className="text-left!">
                    shown as
                  </th>
                  <th scope="col" className="text-left!">
                    looked up
                  </th>
                  <th scope="col" className="text-left!">
                    since the look before
                  </th>
                </tr>
              </thead>
              <tbody>
                {queries.map(({ query, newest, lastDay, looks }) => {
                  const page = findResultPage(db, newest)!;
                  const before = resultPagesOf(db, site.id, [query.id]).find(
                    ({ day, device }) => day < page.day && device === page.device,
                  );
                  const own = ownResult(site, page);
                  return (
                    <tr key={query.id} data-row>
                      <th scope="row" className="max-w-64 truncate">
                        <AppLink href={routes.resultPage(site.id, newest)} className="hover:underline">
                          {query.text}
                        </AppLink>
                      </th>
                      <td>{own?.rank ?? '–'}</td>
                      <td className="max-w-80 truncate text-left!">
                        {own?.title ?? <span className="muted">not among them</span>}
                      </td>
                      <td className="text-left! whitespace-nowrap">
                        {mediumDay(lastDay)} <span className="muted">({plural(looks, 'look')})</span>
                      </td>
                      <td className="text-left!">
                        {before ? (
                          daysSentence(compareDays(before, page))
                        ) : (
                          <span className="muted">the first</span>
                        )}
                      </td>
                    </tr>
                  );
                })}
              </tbody>
            </table>
          </div>
        </RowKeys>
      )}
    </Screen>
  );
}
