'use client';

import Link from 'next/link';
import { MOVED_BY_CHANCE, type Across, type AcrossLine } from '@/core/reading/across';
import { netText, rangeText, VERDICT_NAMES } from '@/core/words/effects';
import { datedSpan, longDay, plural, spanText } from '@/core/words/format';
import { RowKeys } from '../parts/RowKeys';
import { saveCsv } from '../parts/saveCsv';
import { VerdictMark } from '../parts/VerdictMark';
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
  const save = () =>
    saveCsv(
      `${event.name}.csv`,
      [...lines.parts, ...lines.pages].map(({ name, pages, net, mark }) => ({
        name,
        pages,
        mark: VERDICT_NAMES[mark],
        'net clicks': net.clicks?.ratio ?? null,
        low: net.clicks?.low ?? null,
        high: net.clicks?.high ?? null,
      })),
    );
  return (
    <div className="max-w-4xl space-y-5">
      <p className="font-serif text-xl leading-snug">
        {lifted + dropped === 0
          ? 'No page moved beyond what the rest of the site did.'
          : `Of ${plural(lines.pages.length, 'page')}, ${lifted} rose and ${dropped} fell beyond what the rest of the site did.`}{' '}
        <span className="muted">
          About {chance} would be marked so by chance. Clicks of {spanText(before)} against {spanText(after)},
          net of the site’s other untouched pages, as a reading is made.
        </span>
      </p>
      {lines.parts.length > 0 && <Lines title="Parts of the site" lines={lines.parts} siteId={siteId} />}
      <Lines title="Pages" lines={lines.pages} siteId={siteId} />
      <button type="button" className="inline-link text-[0.85rem]" onClick={save}>
        Save as CSV
      </button>
    </div>
  );
}

function Lines({ title, lines, siteId }: { title: string; lines: readonly AcrossLine[]; siteId: number }) {
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
                <th scope="col">net clicks</th>
                <th scope="col">range, 9 in 10</th>
                <th scope="col" className="text-left!">
                  mark
                </th>
              </tr>
            </thead>
            <tbody>
              {lines.map(({ name, pageId, pages, net, mark }) => (
                <tr key={name} data-row>
                  <th scope="row" className="font-normal!">
                    <Link
                      href={`${routes.pages(siteId)}?q=${encodeURIComponent(name)}`}
                      prefetch={false}
                      className="inline-link"
                    >
                      {name}
                    </Link>
                  </th>
                  {pageId === null && <td>{pages}</td>}
                  <td>{netText(net, 'clicks')}</td>
                  <td>{rangeText(net, 'clicks')}</td>
                  <td className="text-left!">
                    <VerdictMark verdict={mark} />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      </RowKeys>
    </section>
  );
}
