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
  const { opening, searches, more, months, title, description, seenOn, clicksNow, came } = detail;
  const { kind, page, query, gain, sentence, conversions, worth, busy, daysToShow, figures, expected } =
    opening;
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
            <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Its searches">
              <table className="figures dense w-full text-[0.87rem]">
                <thead>
                  <tr>
                    <th scope="col">{ofQuery ? 'page' : 'query'}</th>
                    <th scope="col">impressions</th>
                    <th scope="col">position</th>
                    <th scope="col">CTR</th>
                    <th scope="col">usual CTR</th>
                    <th scope="col" className="max-w-24 whitespace-normal!">
                      to the usual, a month
                    </th>
                    {!ofQuery && (
                      <th scope="col" className="text-left!">
                        said on the page
                      </th>
                    )}
                  </tr>
                </thead>
                <tbody>
                  {searches.map(({ line, said }) => {
                    const { metrics, further } = line;
                    const usual = (further.expectedCtr ?? 0) * (metrics.impressions.after ?? 0);
                    return (
                      <tr key={ofQuery ? line.page?.id : line.query?.id}>
                        <th scope="row" className="max-w-72 truncate">
                          {ofQuery && line.page ? (
                            <AppLink href={routes.page(siteId, line.page.id)} className="hover:underline">
                              {pagePath(line.page.address)}
                            </AppLink>
                          ) : (
                            line.query && (
                              <AppLink href={routes.query(siteId, line.query.id)} className="hover:underline">
                                {line.query.text}
                              </AppLink>
                            )
                          )}
                        </th>
                        <td>{columnValue('impressions', metrics.impressions.after)}</td>
                        <td>{columnValue('position', metrics.position.after)}</td>
                        <td>{columnValue('ctr', metrics.ctr.after)}</td>
                        <td className="muted">{columnValue('ctr', further.expectedCtr)}</td>
                        <td>
                          {line.brand
                            ? 'brand'
                            : metricDifference('clicks', (usual - (metrics.clicks.after ?? 0)) / months)}
                        </td>
                        {!ofQuery && (
                          <td className="min-w-28 text-left! whitespace-normal!">
                            <SaidText said={said} />
                          </td>
                        )}
                      </tr>
                    );
                  })}
                </tbody>
              </table>
            </div>
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
            <table className="figures dense w-full text-[0.87rem]">
              <tbody>
                {expected && came?.line.pooled && (
                  <tr>
                    <th scope="row">expected clicks a month</th>
                    <td>
                      <b>{metricDifference('clicks', expected.clicks)}</b>
                    </td>
                    <td className="muted">
                      {came.line.pooled.next
                        ? `${count(clicksNow * Math.expm1(came.line.pooled.next.low))} to ${count(clicksNow * Math.expm1(came.line.pooled.next.high))}`
                        : ''}
                    </td>
                  </tr>
                )}
                {gain && (
                  <tr>
                    <th scope="row">clicks a month, if successful</th>
                    <td>{metricDifference('clicks', gain.clicks)}</td>
                    <td className="muted">
                      {count(gain.low)} to {count(gain.high)}
                    </td>
                  </tr>
                )}
                {conversions !== null && (
                  <tr>
                    <th scope="row">conversions</th>
                    <td>{metricDifference('clicks', conversions)}</td>
                    <td />
                  </tr>
                )}
                {worth !== null && (
                  <tr>
                    <th scope="row">worth</th>
                    <td>{metricDifference('clicks', worth)}</td>
                    <td />
                  </tr>
                )}
                {figures['ceiling'] !== undefined && (
                  <tr>
                    <th scope="row" className="muted">
                      rule of thumb: all at 20%
                    </th>
                    <td className="muted">{metricDifference('clicks', figures['ceiling'] / months)}</td>
                    <td />
                  </tr>
                )}
              </tbody>
            </table>
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
