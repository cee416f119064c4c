import type { Metadata } from 'next';
import { daysOfGrain, grainsOf } from '@/store/figures/days';
import { listFeeds, type FeedRow } from '@/store/figures/feeds';
import { listImports } from '@/store/figures/imports';
import { Coverage } from '@/ui/intake/Coverage';
import { Feeds, type FeedLine } from '@/ui/intake/Feeds';
import { ImportList } from '@/ui/intake/ImportList';
import { UploadBox } from '@/ui/intake/UploadBox';
import { Wanted } from '@/ui/intake/Wanted';
import { Screen } from '@/ui/parts/Screen';
import { siteFromPath, type SitePageProps } from '../site';
import { confirmAll, importFinished } from './actions';
import { fetchNow, removeFeed, setUpFeed } from './feedActions';
import { importLine } from './importLine';

export const metadata: Metadata = { title: 'Intake' };

export default async function IntakePage({ params }: SitePageProps) {
  const { db, site } = siteFromPath((await params).siteId);
  const lines = listImports(db, site.id).map(importLine);
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
            feeds={listFeeds(db, site.id).map(feedLine)}
            setUp={setUpFeed}
            fetchNow={fetchNow}
            remove={removeFeed}
          />
        </section>
        {lines.length > 0 && (
          <section aria-labelledby="so-far">
            <h2 id="so-far" className="mb-1 text-xl">
              Brought in so far
            </h2>
            <ImportList siteId={site.id} lines={lines} confirmAll={confirmAll} finished={importFinished} />
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
        <Wanted open={lines.length === 0} />
      </div>
    </Screen>
  );
}

/** A feed as its line shows it; the token stays here. */
function feedLine(row: FeedRow): FeedLine {
  const { id, name, address, daily, state, pagesFetched, lastFetchedAt, failure } = row;
  return { id, name, address, daily, state, pagesFetched, lastFetchedAt, failure };
}
