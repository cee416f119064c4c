import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { AppLink } from '@/ui/kit/AppLink';
import { columnValue } from '@/core/lists/written';
import { INTENT_NAMES } from '@/core/model/intents';
import { listQueryFrom, type Parameters } from '@/core/lists/address';
import { pagePath } from '@/core/address/address';
import { mediumDay, metricValue, plural, spanText } from '@/core/words/format';
import { ask } from '@/app/ask';
import { listRequest } from '@/services/lists/fromQuery';
import { SiteContext } from '@/services/site/siteContext';
import { checkedPositions } from '@/store/figures/checks';
import { listPages } from '@/store/addresses/pages';
import { findQuery } from '@/store/figures/queryIds';
import { traitsOfQuery } from '@/store/traits/traits';
import { LastFigures } from '@/ui/page/LastFigures';
import { ownResult, resultsEventsOf } from '@/services/wording/resultPages';
import { resultPagesOf } from '@/store/wording/resultPages';
import { ResultsPart } from '@/ui/subject/ResultsPart';
import { Screen } from '@/ui/kit/Screen';
import { RowKeys } from '@/ui/kit/RowKeys';
import { Part } from '@/ui/reading/HowTo';
import { routes } from '@/ui/shell/routes';
import { DaysForm } from '@/ui/subject/DaysForm';
import { QueryTraitsForm } from '@/ui/subject/QueryTraitsForm';
import { ShiftsPart } from '@/ui/subject/ShiftsPart';
import { CheckedLine } from '@/ui/subject/CheckedLine';
import { LedPart } from '@/ui/subject/LedPart';
import { subjectStrips } from '@/ui/subject/strips';
import { SubjectStrips } from '@/ui/subject/SubjectStrips';
import { daysShown, shownDays } from '../../shownDays';
import { siteFromPath } from '../../site';
import { saveQuery } from '../actions';
import { FormLink } from '@/ui/shell/May';
import { FiguresTable } from '@/ui/kit/table/FiguresTable';

export const metadata: Metadata = { title: 'Query' };

type Props = {
  params: Promise<{ siteId: string; queryId: string }>;
  searchParams: Promise<Parameters>;
};

/** Pages that are looked at for who led, those that were seen most. */
const MOST_LED = 8;

/** One query: its figures day by day, the pages that were shown for it, when it moved, and what it is after. */
export default async function QueryPage({ params, searchParams }: Props) {
  const { siteId, queryId } = await params;
  const { db, site } = await siteFromPath(siteId);
  const query = /^\d{1,15}$/.test(queryId) ? findQuery(db, Number(queryId)) : null;
  if (!query || query.siteId !== site.id) notFound();
  const context = new SiteContext(db, site);
  const { span, device, deviceName } = shownDays(await searchParams);
  const wish = listRequest(context, 'pairs', listQueryFrom({ device: deviceName }, 'pairs'), {
    queryId: query.id,
  });
  const lines = listRequest(context, 'queries', listQueryFrom({ device: deviceName }, 'queries'), {
    queryId: query.id,
  });
  const [days, shifts, pages, own] = await Promise.all([
    ask('days', { siteId: site.id, wish: { pageIds: null, query: query.text, device, span } }),
    ask('shifts', { siteId: site.id, wish: { pageIds: null, query: query.text } }),
    wish && typeof wish !== 'string' ? ask('list', { siteId: site.id, wish }) : null,
    lines && typeof lines !== 'string' ? ask('list', { siteId: site.id, wish: lines }) : null,
  ]);
  const line = own?.lines[0] ?? null;
  const traits = traitsOfQuery(db, query.id);
  const named = context.changes.filter(({ queries }) => queries.includes(query.text));
  const shown = pages?.lines ?? [];
  const total = shown.reduce((sum, one) => sum + (one.metrics.impressions.after ?? 0), 0);
  const first = shown[0]?.page;
  const overDays = days?.shown ?? null;
  const shownIds = shown.flatMap(({ page }) => page?.id ?? []);
  const led = overDays
    ? await ask('led', {
        ...{ siteId: site.id, query: query.text, span: overDays },
        pageIds: shownIds.slice(0, MOST_LED),
      })
    : [];
  const resultsEvents = resultsEventsOf(db, site, [query.text]);
  const checked = overDays ? checkedPositions(db, site.id, query.text, overDays) : [];
  const paths = new Map(shown.flatMap(({ page }) => (page ? [[page.id, pagePath(page.address)]] : [])));
  return (
    <Screen
      title={`“${query.text}”`}
      lead={
        line && pages
          ? `Seen ${plural(line.metrics.impressions.after ?? 0, 'time')} and clicked ${plural(line.metrics.clicks.after ?? 0, 'time')} on ${spanText(pages.spans.now)}${line.metrics.position.after === null ? '' : `, at ${metricValue('position', line.metrics.position.after)}`}, on ${plural(shown.length, 'page')} of this site.`
          : 'It was not shown in the last 28 days.'
      }
      aside={
        first && (
          <FormLink
            right="log"
            data-log
            href={`${routes.newChange(site.id)}?page=${encodeURIComponent(pagePath(first.address))}&query=${encodeURIComponent(query.text)}`}
            className="inline-link text-[0.85rem]"
          >
            Log a change
          </FormLink>
        )
      }
    >
      {line && pages && (
        <LastFigures
          metrics={line.metrics}
          after={pages.spans.now}
          searches={line.further.searches ?? null}
        />
      )}
      <RowKeys>
        <div className="grid max-w-6xl gap-x-10 gap-y-5 lg:grid-cols-[3fr_2fr]">
          <div className="min-w-0 space-y-5">
            {days && (
              <Part title="Day by day">
                <DaysForm
                  action={routes.query(site.id, query.id)}
                  days={daysShown(days.shown)}
                  device={deviceName}
                />
                <SubjectStrips
                  data={subjectStrips(days, named, context.events, checked, resultsEvents)}
                  name={`“${query.text}”`}
                />
                <CheckedLine checked={checked} />
              </Part>
            )}
            {overDays && <LedPart led={led} shown={overDays} pathOf={(id) => paths.get(id) ?? ''} />}
            <ShiftsPart siteId={site.id} shifts={shifts ?? []} what="it" />
          </div>
          <div className="min-w-0 space-y-5">
            <Part title="Pages that were shown for it">
              {shown.length === 0 ? (
                <p>
                  {pages?.lacks.queries
                    ? `The imported files have no queries by device, so there are no pages for ${deviceName}. Choose all devices to see them.`
                    : 'None in the last 28 days.'}
                </p>
              ) : (
                <FiguresTable
                  label="Pages that were shown for it"
                  className="dense text-[0.87rem]"
                  rows={shown}
                  rowKey={({ page }, i) => page?.id ?? i}
                  columns={[
                    {
                      id: 'page',
                      cellClass: 'max-w-60 truncate font-normal!',
                      value: ({ page }) => page && pagePath(page.address),
                      cell: ({ page }) =>
                        page && (
                          <AppLink href={routes.page(site.id, page.id)} className="hover:underline">
                            {pagePath(page.address)}
                          </AppLink>
                        ),
                    },
                    {
                      id: 'showings',
                      value: ({ metrics }) => metrics.impressions.after,
                      cell: ({ metrics }) => columnValue('impressions', metrics.impressions.after),
                    },
                    {
                      id: 'share',
                      cell: ({ metrics }) =>
                        total > 0 && `${Math.round((100 * (metrics.impressions.after ?? 0)) / total)}%`,
                    },
                    {
                      id: 'position',
                      lowFirst: true,
                      value: ({ metrics }) => metrics.position.after,
                      cell: ({ metrics }) => columnValue('position', metrics.position.after),
                    },
                    {
                      id: 'CTR',
                      value: ({ metrics }) => metrics.ctr.after,
                      cell: ({ metrics }) => columnValue('ctr', metrics.ctr.after),
                    },
                  ]}
                />
              )}
            </Part>
            <Part title="What it is after">
              <QueryTraitsForm
                siteId={site.id}
                queryId={query.id}
                traits={traits}
                guessed={{
                  intent: traits.intent === null && line?.intent ? INTENT_NAMES[line.intent] : null,
                  brand: line?.brand ?? false,
                }}
                pages={listPages(db, site.id).map(({ id, address }) => ({ id, path: pagePath(address) }))}
                save={saveQuery}
              />
            </Part>
            <Part title="What result pages showed">
              <ResultsPart
                siteId={site.id}
                query={query.text}
                looks={resultPagesOf(db, site.id, [query.id]).map((one) => ({
                  ...{ id: one.id, day: one.day },
                  rank: ownResult(site, one)?.rank ?? null,
                }))}
                events={resultsEvents}
              />
            </Part>
            <Part title="Changes that named it">
              {named.length === 0 ? (
                <p>None.</p>
              ) : (
                <ul>
                  {named.map(({ id, title, day }) => (
                    <li key={id}>
                      <AppLink href={routes.change(site.id, id)} className="inline-link">
                        {title}
                      </AppLink>{' '}
                      <span className="muted">{mediumDay(day)}</span>
                    </li>
                  ))}
                </ul>
              )}
            </Part>
          </div>
        </div>
      </RowKeys>
    </Screen>
  );
}
