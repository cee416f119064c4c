import type { Metadata } from 'next';
import { AppLink } from '@/ui/kit/AppLink';
import { mayInGeneral } from '@/core/access/rights';
import { daysOfGrain, grainsOf } from '@/store/figures/coverage';
import { listFeeds, type FeedRow } from '@/store/figures/feeds';
import { listImports } from '@/store/figures/imports';
import { Coverage } from '@/ui/intake/Coverage';
import { Feeds, type FeedLine } from '@/ui/intake/Feeds';
import { ImportList } from '@/ui/intake/ImportList';
import { UploadBox } from '@/ui/intake/UploadBox';
import { Wanted } from '@/ui/intake/Wanted';
import { Screen } from '@/ui/kit/Screen';
import { routes } from '@/ui/shell/routes';
import { siteFromPath, type SitePageProps } from '../site';
import { restoreDeleted } from '../deleted/actions';
import { entryNamed } from '../entry';
import { confirmAll, importFinished } from './actions';
import { fetchNow, removeFeed, setUpFeed } from './feedActions';
import { importLine } from './importLine';

export const metadata: Metadata = { title: 'Intake' };

type Props = SitePageProps & { searchParams: Promise<{ before?: string | string[] }> };

export default async function IntakePage({ params, searchParams }: Props) {
  const { db, site, asker } = await siteFromPath((await params).siteId, 'log');
  const before = entryNamed((await searchParams).before);
  const lines = (before === null ? listImports(db, site.id) : listImports(db, site.id, before)).map(
    importLine,
  );
  const last = lines.at(-1)?.id;
  const earlier = last !== undefined && listImports(db, site.id, last).length > 0 ? last : null;
  const coverage = grainsOf(db, site.id).map(({ grain }) => ({
    grain,
    days: daysOfGrain(db, site.id, grain),
  }));
  return (
    <Screen
      title="Intake"
      lead={`Figures of ${site.address} come in as files or from a feed, from wherever you get them.`}
    >
      <div className="max-w-6xl space-y-6">
        <UploadBox siteId={site.id} />
        <section aria-labelledby="feeds">
          <h2 id="feeds" className="mb-1 text-xl">
            Feeds
          </h2>
          <Feeds
            siteId={site.id}
            mayAllowHosts={mayInGeneral(asker, 'administer')}
            feeds={listFeeds(db, site.id).map(feedLine)}
            setUp={setUpFeed}
            fetchNow={fetchNow}
            remove={removeFeed}
            restore={restoreDeleted}
          />
        </section>
        {(lines.length > 0 || before !== null) && (
          <section aria-labelledby="so-far">
            <h2 id="so-far" className="mb-1 text-xl">
              Brought in so far
            </h2>
            <ImportList siteId={site.id} lines={lines} confirmAll={confirmAll} finished={importFinished} />
            <p className="mt-2 flex gap-4 text-[0.85rem]">
              {before !== null && (
                <AppLink href={routes.intake(site.id)} className="inline-link">
                  The latest files
                </AppLink>
              )}
              {earlier !== null && (
                <AppLink href={routes.intakeBefore(site.id, earlier)} className="inline-link">
                  Earlier files
                </AppLink>
              )}
            </p>
          </section>
        )}
        {coverage.length > 0 && (
          <section aria-labelledby="days">
            <h2 id="days" className="mb-1 text-xl">
              Which days are there
            </h2>
            <Coverage coverage={coverage} provisionalDays={site.provisionalDays} />
          </section>
        )}
        <Wanted open={lines.length === 0 && before === null} />
      </div>
    </Screen>
  );
}

/** A feed as its line shows it; the token stays here. */
function feedLine(row: FeedRow): FeedLine {
  const { id, name, address, daily, state, pagesFetched, lastFetchedAt, failure } = row;
  return { id, name, address, daily, state, pagesFetched, lastFetchedAt, failure };
}
