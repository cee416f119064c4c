import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { pagePath } from '@/core/address/address';
import { isoDay } from '@/core/calendar/day';
import { differencesBetween } from '@/core/markup/differences';
import { findingsOn } from '@/core/markup/findings';
import { mediumDay, spanText } from '@/core/words/format';
import type { Span } from '@/core/calendar/span';
import { landingTotals } from '@/store/figures/landing';
import { Soon } from '@/app/Soon';
import { expectedLately } from './expected';
import { ask } from '@/app/ask';
import { today } from '@/store/clock';
import { findPage } from '@/store/addresses/pages';
import { changesOnPages } from '@/store/ledger/findChanges';
import {
  findSnapshot,
  lookOf,
  pagesTitled,
  SNAPSHOTS_SHOWN,
  snapshotsOf,
  unloggedOn,
} from '@/store/evidence/snapshots';
import { recentFigures } from '@/services/pages/pageList';
import { SiteContext } from '@/services/site/siteContext';
import { wordsOfSite } from '@/services/site/siteWords';
import { pageTitles } from '@/services/pages/titleChecks';
import { LastFigures } from '@/ui/page/LastFigures';
import { LinksPart } from '@/ui/page/LinksPart';
import { PayingPart } from '@/ui/page/PayingPart';
import { LookBar } from '@/ui/page/LookBar';
import { PageView } from '@/ui/page/PageView';
import { Screen } from '@/ui/kit/Screen';
import { routes } from '@/ui/shell/routes';
import { listQueryFrom } from '@/core/lists/address';
import { pageWords } from '@/core/words/termsOnPage';
import { listRequest } from '@/services/lists/fromQuery';
import { traitsOfPage } from '@/store/traits/traits';
import { PageFigures } from '@/ui/page/PageFigures';
import { shownDays, type ShownParameters } from '../../shownDays';
import { savePage } from '../traitActions';
import { entryNamed } from '../../entry';
import { siteFromPath } from '../../site';
import { lookNow, passOverSnapshot, recordSighting, watch } from '../actions';
import { FormLink } from '@/ui/shell/May';

export const metadata: Metadata = { title: 'Page' };

type Props = {
  params: Promise<{ siteId: string; pageId: string }>;
  searchParams: Promise<
    { before?: string; after?: string; earlier?: string | string[] } & Partial<ShownParameters>
  >;
};

/** Searches of a page that its screen lists. */
const MOST_QUERIES = 25;

/** One page: what it says, what was done to it, and what came of that. */
export default async function OnePage({ params, searchParams }: Props) {
  const { siteId, pageId } = await params;
  const { db, site } = await siteFromPath(siteId);
  const context = new SiteContext(db, site);
  const page = /^\d{1,15}$/.test(pageId) ? findPage(db, site.id, Number(pageId)) : null;
  if (!page) notFound();
  const wish = await searchParams;
  const earlier = entryNamed(wish.earlier);
  const snapshots = snapshotsOf(db, page.id, SNAPSHOTS_SHOWN, earlier ?? undefined);
  const oldest = snapshots.at(-1)?.id;
  const more = oldest !== undefined && snapshotsOf(db, page.id, 1, oldest).length > 0 ? oldest : null;
  const snapshot = (id: string | undefined) => {
    const found = /^\d{1,15}$/.test(id ?? '') ? findSnapshot(db, Number(id)) : null;
    return found?.siteId === site.id ? found : null;
  };
  const [before, after] = [snapshot(wish.before), snapshot(wish.after)];
  const [latest] = earlier === null ? snapshots : snapshotsOf(db, page.id, 1);
  const look = lookOf(db, page.id);
  const { span, device, deviceName, query } = shownDays(wish);
  const of = { pageIds: [page.id], query, device, span };
  const queries = listRequest(context, 'pairs', listQueryFrom({ device: deviceName }, 'pairs'), {
    pageId: page.id,
  });
  // Neither is worth waiting for: both may take seconds the first time after figures changed.
  const openings = ask('openings', {
    siteId: site.id,
    wish: { span: null, kind: null, pageId: page.id, from: 0, limit: 6 },
  });
  const links = ask('links', { siteId: site.id, pageId: page.id });
  const [expected, chain, days, shifts, searches] = await Promise.all([
    expectedLately(context, page.id),
    ask('chain', { siteId: site.id, pageId: page.id }),
    ask('days', { siteId: site.id, wish: of }),
    ask('shifts', { siteId: site.id, wish: { pageIds: [page.id], query } }),
    queries && typeof queries !== 'string'
      ? ask('list', { siteId: site.id, wish: { ...queries, limit: MOST_QUERIES } })
      : null,
  ]);
  const listed = queries && typeof queries !== 'string' ? queries.spans : null;
  const earned = (of: Span | null) => (of ? (landingTotals(db, [page.id], of).get(page.id) ?? null) : null);
  const earnedNow = earned(listed?.now ?? null);
  const titles = pageTitles(db, page);
  const changes = changesOnPages(db, [page.id]);
  const year = Number(isoDay(today(site.timeZone)).slice(0, 4));
  return (
    <Screen
      title={pagePath(page.address)}
      lead={
        latest
          ? latest.day === latest.lastDay
            ? `Fetched on ${mediumDay(latest.day)}.`
            : `Fetched last on ${mediumDay(latest.lastDay)}: as it has been since ${mediumDay(latest.day)}.`
          : 'It has not been fetched yet, so nothing is known of what it says.'
      }
      aside={
        <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
          <FormLink
            right="log"
            data-log
            href={`${routes.newChange(site.id)}?page=${encodeURIComponent(pagePath(page.address))}`}
            className="inline-link text-[0.85rem]"
          >
            Log a change
          </FormLink>
          <a
            href={page.address}
            className="inline-link text-[0.85rem]"
            rel="noreferrer noopener"
            target="_blank"
          >
            Open the page
          </a>
          <LookBar siteId={site.id} pageId={page.id} watched={look.watched} look={lookNow} watch={watch} />
        </div>
      }
    >
      <LastFigures {...recentFigures(context, page.id, expected)} />
      <PageFigures
        siteId={site.id}
        page={page}
        days={days}
        device={deviceName}
        query={query}
        changes={changes}
        events={context.events}
        shifts={shifts ?? []}
        searches={searches?.lines ?? []}
        total={searches?.total ?? 0}
        lacksQueries={searches?.lacks.queries ?? false}
        words={latest ? pageWords(latest.evidence, wordsOfSite(db, site).lexicon) : null}
        paying={
          <Soon asked={openings} waiting={<PayingPart siteId={site.id} openings={null} />}>
            {(answer) => <PayingPart siteId={site.id} openings={answer?.openings ?? []} />}
          </Soon>
        }
        links={
          <Soon asked={links} waiting={null}>
            {(answer) => answer && <LinksPart siteId={site.id} {...answer} />}
          </Soon>
        }
        earned={
          listed && earnedNow
            ? { now: earnedNow, before: earned(listed.was), days: spanText(listed.now) }
            : null
        }
        traits={traitsOfPage(db, page.id)}
        save={savePage}
      />
      <PageView
        siteId={site.id}
        pageId={page.id}
        failure={look.failure}
        latest={latest?.evidence ?? null}
        findings={
          latest
            ? findingsOn(latest.evidence, {
                year,
                sameTitle: latest.evidence.title
                  ? pagesTitled(db, site.id, latest.evidence.title, page.id).map((one) =>
                      pagePath(one.address),
                    )
                  : [],
              })
            : []
        }
        unlogged={unloggedOn(db, site, changes).filter((one) => one.page.id === page.id)}
        passOver={passOverSnapshot}
        titles={{
          pageId: page.id,
          path: pagePath(page.address),
          ...{ onPage: titles.onPage, inResults: titles.inResults, check: titles.check },
          likely: titles.meant ?? titles.onPage?.title ?? '',
        }}
        recordSighting={recordSighting}
        chain={chain}
        snapshots={snapshots.map(({ id, day, lastDay, evidence, differences }) => ({
          ...{ id, day, lastDay, differences },
          title: evidence.title,
        }))}
        earlier={more === null ? null : routes.earlierSnapshots(site.id, page.id, more)}
        compared={
          before && after
            ? {
                before: before.lastDay,
                after: after.day,
                differences: differencesBetween(before.evidence, after.evidence),
              }
            : null
        }
      />
    </Screen>
  );
}
