import { AppLink } from '../kit/AppLink';
import type { Day } from '@/core/calendar/day';
import type { ChangeSpans, Span } from '@/core/calendar/span';
import { changeKindName } from '@/core/model/change';
import type { ChainLink, PageChain } from '@/core/reading/pageChain';
import { mediumDay, spanText } from '@/core/words/format';
import { gist } from '../ledger/entry';
import { VerdictMark } from '../kit/VerdictMark';
import { routes } from '../shell/routes';
import { FiguresTable } from '../kit/table/FiguresTable';

/** A change of the page, or (without a link) all of them together. */
type ChainRow = { readonly link: ChainLink | null; readonly spans: ChangeSpans; readonly day: Day | null };

/** The changes of a page on one time line, each against its own spans, and all of them together. */
export function PageChainTable({ siteId, chain }: { siteId: number; chain: PageChain }) {
  const { links, whole } = chain;
  const all = [...links, ...(whole ? [whole] : [])].map(({ spans }) => spans);
  const axis: Span = {
    firstDay: Math.min(...all.map(({ before }) => before.firstDay)) as Day,
    lastDay: Math.max(...all.map(({ after }) => after.lastDay)) as Day,
  };
  return (
    <FiguresTable<ChainRow>
      label="Changes of the page"
      className="dense [&_:is(th,td)]:text-left"
      sortable={false}
      rows={[
        ...links.map((link) => ({ link, spans: link.spans, day: link.entry.day })),
        ...(whole ? [{ link: null, spans: whole.spans, day: null }] : []),
      ]}
      rowKey={({ link }) => link?.entry.id ?? 'all'}
      columns={[
        { id: 'day', cellClass: 'font-normal!', cell: ({ day }) => day !== null && mediumDay(day) },
        {
          id: 'change',
          cellClass: 'whitespace-normal!',
          cell: ({ link }) =>
            link ? (
              <>
                <AppLink href={routes.change(siteId, link.entry.id)} className="inline-link">
                  {link.entry.title}
                </AppLink>{' '}
                <span className="muted text-[0.85rem]">
                  {link.entry.kinds.map(changeKindName).join(' + ')}
                </span>
              </>
            ) : (
              'All of them together, from before the first'
            ),
        },
        {
          id: 'spans',
          name: `${mediumDay(axis.firstDay)} to ${mediumDay(axis.lastDay)}`,
          className: 'w-[38%]',
          cell: ({ spans, day }) => <SpanBar spans={spans} axis={axis} day={day} />,
        },
        {
          id: 'verdict',
          cell: ({ link }) =>
            link ? (
              <Verdict {...link} />
            ) : (
              whole && <Verdict entry={whole.entry} cutBy={null} tooShort={false} />
            ),
        },
      ]}
    />
  );
}

function Verdict({ entry, cutBy, tooShort }: Pick<ChainLink, 'entry' | 'cutBy' | 'tooShort'>) {
  const { figure, under } = gist(entry);
  if (tooShort) return <span className="muted">no week of its own before “{cutBy}”</span>;
  return (
    <>
      {!entry.withoutFigures && <VerdictMark verdict={entry.verdict} figure={figure} />}{' '}
      <span className="muted text-[0.85rem]">{under}</span>
      {cutBy !== null && <span className="muted block text-[0.8rem]">cut short by “{cutBy}”</span>}
    </>
  );
}

const WIDTH = 360;

/** The two spans on the common axis, hollow before and solid after, with the stroke of the change. */
function SpanBar({ spans, axis, day }: { spans: ChangeSpans; axis: Span; day: Day | null }) {
  const x = (on: number) => ((on - axis.firstDay) / (axis.lastDay + 1 - axis.firstDay)) * WIDTH;
  const box = ({ firstDay, lastDay }: Span) => ({ x: x(firstDay), width: x(lastDay + 1) - x(firstDay) });
  return (
    <svg
      viewBox={`0 0 ${WIDTH} 16`}
      className="block h-4 w-full min-w-40"
      preserveAspectRatio="none"
      role="img"
      aria-label={`before ${spanText(spans.before)}, after ${spanText(spans.after)}`}
    >
      <path d={`M0 8H${WIDTH}`} stroke="var(--hairline)" vectorEffect="non-scaling-stroke" />
      <rect
        {...box(spans.before)}
        y="4.5"
        height="7"
        fill="var(--color-base-100)"
        stroke="currentColor"
        vectorEffect="non-scaling-stroke"
      />
      <rect {...box(spans.after)} y="4.5" height="7" fill="currentColor" />
      {day !== null && (
        <path d={`M${x(day)} 0V16`} stroke="currentColor" strokeWidth="2" vectorEffect="non-scaling-stroke" />
      )}
    </svg>
  );
}
