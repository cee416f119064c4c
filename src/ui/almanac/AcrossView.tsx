'use client';

import { AppLink } from '../kit/AppLink';
import { isoDay } from '@/core/calendar/day';
import type { ListSpans } from '@/core/lists/spans';
import { spanWritten } from '@/core/lists/wish';
import {
  acrossSentence,
  MOVED_BY_CHANCE,
  relativeText,
  type Across,
  type AcrossLine,
} from '@/core/reading/across';
import { netText, rangeText, VERDICT_NAMES } from '@/core/effect/effectWords';
import {
  datedSpan,
  longDay,
  metricDifference,
  metricValue,
  percentChange,
  plural,
  spanText,
} from '@/core/words/format';
import { TotalsTable } from '../lists/TotalsTable';
import { RowKeys } from '../kit/RowKeys';
import { saveCsv } from '../kit/saveCsv';
import { VerdictMark } from '../kit/VerdictMark';
import { routes } from '../shell/routes';

/** Who moved across an event: one sentence, the parts of the site, the pages, and what has to be said with it. */
export function AcrossView({ siteId, across }: { siteId: number; across: Across }) {
  const { event, before, after, lines } = across;
  if (!lines) {
    return (
      <p className="max-w-2xl font-serif text-xl leading-snug">
        Who moved across {datedSpan(event)} can be told when the days after it are over and final, up to{' '}
        {longDay(after.lastDay)}.
      </p>
    );
  }
  const lifted = lines.pages.filter(({ mark }) => mark === 'lifted').length;
  const dropped = lines.pages.filter(({ mark }) => mark === 'dropped').length;
  const chance = Math.round(MOVED_BY_CHANCE * lines.pages.length);
  const spans = { now: after, was: before };
  const save = () =>
    saveCsv(
      `${event.name}.csv`,
      [...lines.parts, ...lines.pages].map(({ name, pages, raw, net, mark }) => ({
        name,
        pages,
        'clicks before': raw.clicks.before,
        'clicks after': raw.clicks.after,
        mark: VERDICT_NAMES[mark],
        'net clicks': net.clicks?.ratio ?? null,
        low: net.clicks?.low ?? null,
        high: net.clicks?.high ?? null,
      })),
    );
  return (
    <div className="max-w-5xl space-y-5">
      <p className="font-serif text-xl leading-snug">
        {acrossSentence(lines)}{' '}
        {lifted + dropped === 0
          ? 'No page moved beyond what the rest of the site did.'
          : `Of ${plural(lines.pages.length, 'page')}, ${lifted} rose and ${dropped} fell beyond what the rest of the site did; about ${chance} would be marked so by chance.`}{' '}
        <span className="muted">
          {spanText(after)} compared with {spanText(before)}. Net effects are relative to the rest of the
          site.
        </span>
      </p>
      <TotalsTable lines={[{ name: 'Whole site', metrics: lines.site }]} spans={spans} />
      {lines.parts.length > 0 && (
        <Lines title="Parts of the site" lines={lines.parts} siteId={siteId} spans={spans} />
      )}
      <Lines title="Pages" lines={lines.pages} siteId={siteId} spans={spans} />
      <button type="button" className="inline-link text-[0.85rem]" onClick={save}>
        Save as CSV
      </button>
    </div>
  );
}

type LinesProps = { title: string; lines: readonly AcrossLine[]; siteId: number; spans: ListSpans };

/** Where the figures of a line are seen over the same days. */
function networkOf(siteId: number, { name, pageId }: AcrossLine, { now, was }: ListSpans): string {
  const query = new URLSearchParams({ from: isoDay(now.firstDay), to: isoDay(now.lastDay) });
  if (pageId !== null) return `${routes.page(siteId, pageId)}?${query}`;
  if (was) query.set('against', spanWritten(was));
  query.set('group', name);
  return `${routes.pages(siteId)}?${query}`;
}

function Lines({ title, lines, siteId, spans }: LinesProps) {
  return (
    <section aria-label={title}>
      <h2 className="text-xl">{title}</h2>
      <RowKeys>
        <div className="overflow-x-auto" tabIndex={0} role="region" aria-label={`${title}, table`}>
          <table className="figures text-[0.9rem]">
            <thead>
              <tr>
                <th scope="col">{title === 'Pages' ? 'page' : 'part'}</th>
                {title !== 'Pages' && <th scope="col">pages</th>}
                <th scope="col">clicks before</th>
                <th scope="col">clicks after</th>
                <th scope="col">difference</th>
                <th scope="col">net effect</th>
                <th scope="col">likely range</th>
                <th scope="col" className="text-left!">
                  verdict
                </th>
              </tr>
            </thead>
            <tbody>
              {lines.map((line) => {
                const { name, pageId, pages, raw, net, mark } = line;
                const relative = relativeText(line);
                return (
                  <tr key={name} data-row>
                    <th scope="row" className="max-w-80 truncate font-normal!">
                      <AppLink href={networkOf(siteId, line, spans)} className="inline-link">
                        {name}
                      </AppLink>
                    </th>
                    {pageId === null && <td>{pages}</td>}
                    <td>{metricValue('clicks', raw.clicks.before)}</td>
                    <td>{metricValue('clicks', raw.clicks.after)}</td>
                    <td>
                      {raw.clicks.ratio === null
                        ? metricDifference('clicks', raw.clicks.difference)
                        : percentChange(raw.clicks.ratio)}
                    </td>
                    <td>{netText(net, 'clicks')}</td>
                    <td>{rangeText(net, 'clicks')}</td>
                    <td className="text-left!">
                      <VerdictMark verdict={mark} />
                      {relative && <span className="muted"> {relative}</span>}
                    </td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </div>
      </RowKeys>
    </section>
  );
}
