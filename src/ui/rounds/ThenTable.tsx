import { AppLink } from '../kit/AppLink';
import { pagePath } from '@/core/address/address';
import type { Round } from '@/core/model/round';
import { count, metricValue, spanText } from '@/core/words/format';
import { routes } from '../shell/routes';

/** What was known of the pages of a round on the day on which it began. */
export function ThenTable({ siteId, round }: { siteId: number; round: Round }) {
  const span = round.pages.map(({ frozen }) => frozen).find(({ firstDay }) => firstDay !== null);
  return (
    <>
      <p className="muted mb-2 text-[0.9rem]">
        {span?.firstDay != null && span.lastDay !== null
          ? `Figures of ${spanText({ firstDay: span.firstDay, lastDay: span.lastDay })}, kept when the round began.`
          : 'There were no figures when the round began.'}
      </p>
      <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="As it was then">
        <table className="figures dense text-[0.87rem]">
          <thead>
            <tr>
              <th scope="col">page</th>
              <th scope="col" className="text-left!">
                half
              </th>
              <th scope="col">clicks</th>
              <th scope="col">impressions</th>
              <th scope="col">position</th>
              <th scope="col">appeal</th>
              <th scope="col" className="text-left!">
                title then
              </th>
              <th scope="col" className="text-left!">
                most seen searches
              </th>
            </tr>
          </thead>
          <tbody>
            {round.pages.map(({ page, half, frozen }) => (
              <tr key={page.id}>
                <th scope="row" className="max-w-52 truncate">
                  <AppLink href={routes.page(siteId, page.id)} className="hover:underline">
                    {pagePath(page.address)}
                  </AppLink>
                </th>
                <td className="text-left!">{half}</td>
                <td>{count(frozen.clicks)}</td>
                <td>{count(frozen.impressions)}</td>
                <td>{metricValue('position', frozen.position)}</td>
                <td>{metricValue('appeal', frozen.appeal)}</td>
                <td className="max-w-64 truncate text-left!" title={frozen.title ?? ''}>
                  {frozen.title ?? <span className="muted">not fetched</span>}
                </td>
                <td className="max-w-80 truncate text-left!">
                  {frozen.queries
                    .slice(0, 4)
                    .map(({ text, impressions }) => `${text} (${count(impressions)})`)
                    .join(', ')}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </>
  );
}
