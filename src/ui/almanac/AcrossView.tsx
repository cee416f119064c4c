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
import { FiguresTable } from '../kit/table/FiguresTable';
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
        <Lines title="Parts of the site" lines={lines.parts} {...{ siteId, spans, eventName: event.name }} />
      )}
      <Lines title="Pages" lines={lines.pages} {...{ siteId, spans, eventName: event.name }} />
    </div>
  );
}

type LinesProps = {
  title: string;
  lines: readonly AcrossLine[];
  siteId: number;
  spans: ListSpans;
  eventName: string;
};

/** Where the figures of a line are seen over the same days. */
function networkOf(siteId: number, { name, pageId }: AcrossLine, { now, was }: ListSpans): string {
  const query = new URLSearchParams({ from: isoDay(now.firstDay), to: isoDay(now.lastDay) });
  if (pageId !== null) return `${routes.page(siteId, pageId)}?${query}`;
  if (was) query.set('against', spanWritten(was));
  query.set('group', name);
  return `${routes.pages(siteId)}?${query}`;
}

function Lines({ title, lines, siteId, spans, eventName }: LinesProps) {
  return (
    <section aria-label={title}>
      <h2 className="text-xl">{title}</h2>
      <RowKeys>
        <FiguresTable
          label={`${title}, table`}
          className="text-[0.9rem]"
          csv={`${eventName}, ${title.toLowerCase()}.csv`}
          rows={lines}
          rowKey={({ name }) => name}
          columns={[
            {
              id: title === 'Pages' ? 'page' : 'part',
              cellClass: 'max-w-80 truncate font-normal!',
              value: ({ name }) => name,
              cell: (line) => (
                <AppLink href={networkOf(siteId, line, spans)} className="inline-link">
                  {line.name}
                </AppLink>
              ),
            },
            title !== 'Pages' && { id: 'pages', value: ({ pages }) => pages },
            ...(['before', 'after'] as const).map((when) => ({
              id: `clicks ${when}`,
              value: ({ raw }: AcrossLine) => raw.clicks[when],
              cell: ({ raw }: AcrossLine) => metricValue('clicks', raw.clicks[when]),
            })),
            {
              id: 'difference',
              value: ({ raw }) => raw.clicks.ratio ?? null,
              cell: ({ raw: { clicks } }) =>
                clicks.ratio === null
                  ? metricDifference('clicks', clicks.difference)
                  : percentChange(clicks.ratio),
            },
            {
              id: 'net effect',
              value: ({ net }) => net.clicks?.ratio ?? null,
              cell: ({ net }) => netText(net, 'clicks'),
            },
            ...(['low', 'high'] as const).map((end) => ({
              id: end,
              name: `net effect, ${end} end`,
              hidden: true,
              value: ({ net }: AcrossLine) => net.clicks?.[end] ?? null,
            })),
            {
              id: 'likely range',
              sorts: false,
              value: ({ net }) => rangeText(net, 'clicks'),
            },
            {
              id: 'verdict',
              text: true,
              value: ({ mark }) => VERDICT_NAMES[mark],
              cell: (line) => {
                const relative = relativeText(line);
                return (
                  <>
                    <VerdictMark verdict={line.mark} />
                    {relative && <span className="muted"> {relative}</span>}
                  </>
                );
              },
            },
          ]}
        />
      </RowKeys>
    </section>
  );
}
