import { AppLink } from '../kit/AppLink';
import { pagePath } from '@/core/address/address';
import type { Day } from '@/core/calendar/day';
import { columnValue } from '@/core/lists/written';
import { KINDS } from '@/core/openings/kinds';
import { nameOf } from '@/core/openings/openingSentence';
import { takeOnQuery } from '@/core/openings/takeOn';
import { count, mediumDay, metricDifference, plural } from '@/core/words/format';
import type { OpeningDetail } from '@/core/openings/named';
import type { Act } from '../kit/attempt';
import { Part } from '../reading/HowTo';
import { FormLink, IfMay } from '../shell/May';
import { routes } from '../shell/routes';
import { SaidText } from '../subject/SaidText';
import { NotWorthIt } from './NotWorthIt';
import { FiguresTable } from '../kit/table/FiguresTable';
import { MEASURE_NAMES } from '@/core/measures/registry';

type Props = {
  siteId: number;
  detail: OpeningDetail;
  today: Day;
  pass: Act<[siteId: number, passed: { key: string; reason: string; clicksAMonth: number }]>;
  takeUp: Act<[siteId: number, key: string]>;
};

/** The result page of the query of an opening, or of the most seen of its searches; where none is kept, the form for one. */
function wordingLink(siteId: number, { wording, opening, searches }: OpeningDetail): string {
  return wording === null
    ? routes.newResultPage(siteId, opening.query?.text ?? searches[0]?.line.query?.text ?? '')
    : routes.resultPage(siteId, wording);
}

/** One opening: what it would bring and why, its searches, what its page says, and the change it leads to. */
export function OpeningPane({ siteId, detail, today, pass, takeUp }: Props) {
  const { opening, searches, more, months, title, description, seenOn, came } = detail;
  const { kind, page, query, gain, sentence, worth, busy, daysToShow, expected } = opening;
  const path = page ? pagePath(page.address) : null;
  const form = takeOnQuery(
    { kind, key: opening.key, path, query: query?.text ?? null, gain, expected, title, daysToShow },
    today,
  );
  const { name, rows } = KINDS[kind];
  const ofQuery = rows.of === 'query';
  return (
    <div className="px-5 pt-3 pb-10 wide:px-6">
      <p className="muted text-[0.8rem]">
        <AppLink href={routes.openings(siteId)} className="inline-link wide:hidden">
          All openings
        </AppLink>{' '}
        {name} · {query ? 'query' : 'page'}
      </p>
      <h2 className="text-2xl break-words">{nameOf(opening)}</h2>
      <p className="mt-1 max-w-3xl font-serif text-[1.2rem] leading-snug">
        {sentence}{' '}
        {gain && (
          <>
            {expected && (
              <>
                Expect <b>+{plural(Math.round(expected.clicks), 'click')} a month</b>, as{' '}
                {came!.line.name.toLowerCase()} have brought here.{' '}
              </>
            )}
            The full gap is{' '}
            {expected ? (
              plural(Math.round(gain.clicks), 'click')
            ) : (
              <b>{plural(Math.round(gain.clicks), 'click')}</b>
            )}{' '}
            a month (likely {count(gain.low)} to {count(gain.high)}), if successful.
          </>
        )}
      </p>
      {busy?.until === null && (
        <p className="mt-2 border-l-3 border-(--band) pl-2">
          The page is in{' '}
          <AppLink href={routes.round(siteId, busy.roundId)} className="inline-link">
            a round that runs
          </AppLink>
          . Another change on it would take it out of the comparison.
        </p>
      )}
      {busy && busy.until !== null && (
        <p className="mt-2 border-l-3 border-(--band) pl-2">
          A{' '}
          <AppLink href={routes.change(siteId, busy.changeId)} className="inline-link">
            change on this page
          </AppLink>{' '}
          is being read until {mediumDay(busy.until)}. Another one now would leave neither to be told apart.
        </p>
      )}
      <div className="mt-3 flex flex-wrap items-center gap-x-4 gap-y-2">
        <IfMay right="log">
          <AppLink data-log href={`${routes.newChange(siteId)}${form}`} className="btn btn-primary btn-sm">
            Take it on <kbd className="border px-1 font-sans text-[0.7rem] opacity-80">n</kbd>
          </AppLink>
        </IfMay>
        {page && (
          <AppLink href={routes.page(siteId, page.id)} className="inline-link">
            Open the page’s screen
          </AppLink>
        )}
        {(page || query) && (
          <FormLink
            right={detail.wording === null ? 'edit' : 'read'}
            href={wordingLink(siteId, detail)}
            className="inline-link"
          >
            See how the results word it
          </FormLink>
        )}
        {query && (
          <AppLink href={routes.query(siteId, query.id)} className="inline-link">
            Open the query’s screen
          </AppLink>
        )}
        <IfMay right="edit">
          <NotWorthIt
            siteId={siteId}
            opening={{ key: opening.key, clicksAMonth: gain?.clicks ?? 0 }}
            pass={pass}
            takeUp={takeUp}
          />
        </IfMay>
        {gain && daysToShow !== null && (
          <span className="muted ml-auto text-[0.85rem]">would show within {plural(daysToShow, 'day')}</span>
        )}
      </div>
      <div className="mt-4 space-y-4">
        {searches.length > 0 && (
          <Part title={rows.title}>
            <FiguresTable
              label="Its searches"
              className="dense text-[0.87rem]"
              csv="queries of the opening.csv"
              rows={searches}
              rowKey={({ line }, i) => (ofQuery ? line.page?.id : line.query?.id) ?? i}
              columns={[
                {
                  id: ofQuery ? 'page' : 'query',
                  cellClass: 'max-w-72 truncate',
                  value: ({ line }) => (ofQuery ? line.page?.address : line.query?.text) ?? '',
                  cell: ({ line }) =>
                    ofQuery && line.page ? (
                      <AppLink href={routes.page(siteId, line.page.id)} className="hover:underline">
                        {pagePath(line.page.address)}
                      </AppLink>
                    ) : (
                      line.query && (
                        <AppLink href={routes.query(siteId, line.query.id)} className="hover:underline">
                          {line.query.text}
                        </AppLink>
                      )
                    ),
                },
                ...(['impressions', 'position', 'ctr'] as const).map((metric) => ({
                  id: metric,
                  name: MEASURE_NAMES[metric],
                  lowFirst: metric === 'position',
                  value: ({ line }: Search) => line.metrics[metric].after,
                  cell: ({ line }: Search) => columnValue(metric, line.metrics[metric].after),
                })),
                {
                  id: 'usual CTR',
                  cellClass: 'muted',
                  value: ({ line }) => line.further.expectedCtr ?? null,
                  cell: ({ line }) => columnValue('ctr', line.further.expectedCtr),
                },
                {
                  id: 'to the usual, a month',
                  className: 'max-w-24 whitespace-normal!',
                  value: ({ line }) => (line.brand ? null : toUsual(line, months)),
                  cell: ({ line }) =>
                    line.brand ? 'brand' : metricDifference('clicks', toUsual(line, months)),
                },
                !ofQuery && {
                  id: 'said on the page',
                  text: true,
                  cellClass: 'min-w-28 whitespace-normal!',
                  cell: ({ said }) => <SaidText said={said} />,
                },
              ]}
            />
            {more > 0 && (
              <p className="muted mt-1 text-[0.85rem]">
                and {count(more)} more
                {page && !ofQuery && (
                  <>
                    , all of them on{' '}
                    <AppLink href={routes.page(siteId, page.id)} className="inline-link">
                      the page’s screen
                    </AppLink>
                  </>
                )}
              </p>
            )}
          </Part>
        )}
        <div className="grid gap-x-10 gap-y-4 md:grid-cols-2">
          {page && (
            <Part title="What the page says">
              {seenOn === null ? (
                <p>
                  It has not been fetched yet.{' '}
                  <AppLink href={routes.page(siteId, page.id)} className="inline-link">
                    Fetch it on its screen
                  </AppLink>
                </p>
              ) : (
                <dl className="text-[0.9rem]">
                  <dt className="muted">title</dt>
                  <dd className="font-semibold">{title ?? 'none'}</dd>
                  <dt className="muted mt-1">description</dt>
                  <dd>{description ?? 'none'}</dd>
                  <dt className="muted mt-1">as fetched</dt>
                  <dd>{mediumDay(seenOn)}</dd>
                </dl>
              )}
            </Part>
          )}
          <Part title="What it would be worth">
            <FiguresTable
              label="What it would be worth"
              className="dense text-[0.87rem] [&_tbody_th]:whitespace-normal"
              hideHead
              rows={worthLines(detail)}
              rowKey={({ name }) => name}
              columns={[
                { id: 'of', cell: ({ name }) => name },
                { id: 'value', cell: ({ value }) => metricDifference('clicks', value) },
                { id: 'range', cellClass: 'muted', cell: ({ range }) => range },
              ]}
            />
            {came && (
              <p className="mt-1 text-[0.85rem]">
                {came.sentence}{' '}
                <AppLink href={routes.scorebook(siteId)} className="inline-link">
                  Scorebook
                </AppLink>
              </p>
            )}
            {worth === null && (
              <p className="muted mt-1 text-[0.85rem]">
                Say what a click or a conversion is worth in the{' '}
                <AppLink href={routes.settings(siteId)} className="inline-link">
                  settings
                </AppLink>
                , and it is told in money too.
              </p>
            )}
          </Part>
        </div>
      </div>
    </div>
  );
}

type Search = OpeningDetail['searches'][number];

/** Clicks a month that a query would bring more at its usual CTR. */
function toUsual({ metrics, further }: Search['line'], months: number): number {
  const usual = (further.expectedCtr ?? 0) * (metrics.impressions.after ?? 0);
  return (usual - (metrics.clicks.after ?? 0)) / months;
}

type WorthLine = { readonly name: string; readonly value: number; readonly range?: string };

/** What an opening would be worth, each in its own unit. */
function worthLines({ opening, clicksNow, came, months }: OpeningDetail): WorthLine[] {
  const { gain, expected, conversions, worth, figures } = opening;
  const next = came?.line.pooled?.next;
  const gained = (log: number) => count(clicksNow * Math.expm1(log));
  const lines: (WorthLine | false | null | undefined)[] = [
    expected &&
      came?.line.pooled && {
        name: 'expected clicks a month',
        value: expected.clicks,
        ...(next && { range: `${gained(next.low)} to ${gained(next.high)}` }),
      },
    gain && {
      name: 'clicks a month, if successful',
      value: gain.clicks,
      range: `${count(gain.low)} to ${count(gain.high)}`,
    },
    conversions !== null && { name: 'conversions', value: conversions },
    worth !== null && { name: 'worth', value: worth },
    figures['ceiling'] !== undefined && {
      name: 'rule of thumb: all at 20%',
      value: figures['ceiling'] / months,
    },
  ];
  return lines.filter((line): line is WorthLine => Boolean(line));
}
