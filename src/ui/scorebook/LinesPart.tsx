import { AppLink } from '../kit/AppLink';
import { HELD_WITHIN, markOf } from '@/core/effect/verdict';
import type { Scorebook } from '@/core/scorebook/book';
import type { ScoreLine } from '@/core/scorebook/scorebook';
import { lineSentence } from '@/core/scorebook/scorebookSentence';
import { ABSENT, boundPercent, netPercent, share } from '@/core/words/format';
import { VERDICT_INK, VerdictShape } from '../kit/VerdictMark';
import { FiguresTable, type Column } from '../kit/table/FiguresTable';
import { RangeBar } from '../reading/RangeBar';
import { HowTo } from '../reading/HowTo';

type Props = {
  book: Scorebook;
  byName: string;
  ways: readonly { readonly name: string; readonly href: string; readonly here: boolean }[];
};

const [LEAST_SCALE, MOST_SCALE] = [Math.log(1.2), Math.log(2)];
const VERDICTS = ['lifted', 'dropped', 'held', 'unclear'] as const;

/** The lines of the scorebook: the sentence of the fullest, then a dot and its range for each. */
export function LinesPart({ book, byName, ways }: Props) {
  const { lines } = book;
  const [fullest] = lines;
  const reach = Math.max(
    0,
    ...lines.flatMap(({ pooled }) =>
      pooled ? [pooled.low, pooled.high, pooled.next?.low ?? 0, pooled.next?.high ?? 0].map(Math.abs) : [],
    ),
  );
  const most = Math.min(MOST_SCALE, Math.max(LEAST_SCALE, reach * 1.05));
  return (
    <section aria-label="What was pooled">
      <p className="max-w-4xl font-serif text-[1.25rem] leading-snug">
        {fullest
          ? lineSentence(fullest.name, fullest)
          : `Of the ${book.read} changes that were read none has a ${byName}.`}
      </p>
      <nav
        aria-label="Pooled by"
        className="mt-2 mb-1 flex flex-wrap items-baseline gap-x-4 gap-y-1 text-[0.9rem]"
      >
        <span className="muted">pooled by</span>
        {ways.map(({ name, href, here }) => (
          <AppLink
            key={name}
            href={href}
            aria-current={here ? 'page' : undefined}
            className={here ? 'border-b-2 border-base-content font-bold' : 'inline-link'}
          >
            {name}
          </AppLink>
        ))}
        <HowTo>
          <p>
            The dot is the mean effect of all changes of the line, the bar its range, the thin line behind it
            what the next one will most likely bring: changes of one kind differ among themselves, so that
            range is wider. Every change counts by how well its own effect is known, a round by its halves.
            Changes that were held against the same pages in the same days err together; the range allows for
            that.
          </p>
          <p>
            Appeal where a line is about titles, descriptions and structured data only; clicks where it is
            about anything else too.
          </p>
        </HowTo>
      </nav>
      {lines.length > 0 && (
        <FiguresTable
          label={`By ${byName}`}
          className="dense text-[0.9rem]"
          csv={`scorebook by ${byName}.csv`}
          choose="scorebook"
          rows={lines}
          rowKey={({ key }) => key}
          rowTitle={(line) => lineSentence(line.name, line)}
          columns={columnsOf(byName, most)}
        />
      )}
    </section>
  );
}

function columnsOf(byName: string, most: number): Column<ScoreLine>[] {
  return [
    {
      id: byName,
      cellClass: 'max-sm:whitespace-normal!',
      value: ({ name }) => name,
      cell: ({ name, rounds }) => (
        <>
          {name}
          {rounds > 0 && (
            <span className="muted font-normal">
              {' '}
              ({rounds} from {rounds === 1 ? 'a round' : 'rounds'})
            </span>
          )}
        </>
      ),
    },
    { id: 'read', value: ({ changes }) => changes },
    ...VERDICTS.map((verdict): Column<ScoreLine> => ({
      id: verdict,
      head: (
        <span className={`inline-flex items-baseline gap-1 ${VERDICT_INK[verdict]}`}>
          <VerdictShape verdict={verdict} />
          {verdict}
        </span>
      ),
      className: 'max-sm:hidden',
      value: (line) => line[verdict],
      cell: (line) => <span className={line[verdict] === 0 ? 'muted' : ''}>{line[verdict]}</span>,
    })),
    {
      id: 'by',
      text: true,
      className: 'max-sm:hidden',
      cellClass: 'muted',
      value: ({ pooled }) => pooled?.measure ?? ABSENT,
    },
    {
      id: 'on the whole',
      value: ({ pooled }) => pooled && Math.exp(pooled.net),
      cell: ({ pooled }) => (
        <b className={VERDICT_INK[markOfLine(pooled)]}>
          {pooled ? netPercent(Math.exp(pooled.net)) : ABSENT}
        </b>
      ),
    },
    {
      id: 'range and next',
      cell: ({ pooled }) =>
        pooled && (
          <span className="relative inline-block">
            {pooled.next && <NextBar next={pooled.next} most={most} />}
            <RangeBar range={pooled} most={most} level={Math.log1p(HELD_WITHIN)} mark={markOfLine(pooled)} />
          </span>
        ),
    },
    {
      id: 'range, 9 in 10',
      cellClass: 'muted',
      sorts: false,
      value: ({ pooled }) =>
        pooled ? `${boundPercent(Math.exp(pooled.low))} to ${boundPercent(Math.exp(pooled.high))}` : ABSENT,
    },
    {
      id: 'between changes',
      cellClass: 'muted',
      value: ({ pooled }) => (pooled && pooled.counted > 1 ? Math.expm1(pooled.spread) : null),
      cell: ({ pooled }) => (pooled && pooled.counted > 1 ? `±${share(Math.expm1(pooled.spread))}` : ABSENT),
    },
    {
      id: 'the next one',
      cellClass: 'muted',
      sorts: false,
      value: ({ pooled }) =>
        pooled?.next
          ? `${netPercent(Math.exp(pooled.next.low))} to ${netPercent(Math.exp(pooled.next.high))}`
          : ABSENT,
    },
  ];
}

const markOfLine = (pooled: ScoreLine['pooled']) => (pooled ? markOf(pooled.measure, pooled) : 'unclear');

/** The range for the next one, as a thin line behind that of the mean. */
function NextBar({ next, most }: { next: { readonly low: number; readonly high: number }; most: number }) {
  const x = (log: number) => Math.max(0, Math.min(100, ((log + most) / (2 * most)) * 100));
  return (
    <span
      aria-hidden
      className="absolute top-1/2 h-[5px] -translate-y-1/2 border-y border-(--muted) opacity-70"
      style={{ left: `${x(next.low)}%`, width: `${Math.max(1, x(next.high) - x(next.low))}%` }}
    />
  );
}
