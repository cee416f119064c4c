import { AppLink } from '../kit/AppLink';
import { HELD_WITHIN, markOf } from '@/core/effect/verdict';
import type { Scorebook } from '@/core/scorebook/book';
import type { ScoreLine } from '@/core/scorebook/scorebook';
import { lineSentence } from '@/core/scorebook/scorebookSentence';
import { ABSENT, boundPercent, netPercent, share } from '@/core/words/format';
import { VERDICT_INK, VerdictShape } from '../kit/VerdictMark';
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
        <div className="overflow-x-auto" tabIndex={0} role="region" aria-label={`By ${byName}`}>
          <table className="figures dense text-[0.9rem]">
            <thead>
              <tr>
                <th scope="col">{byName}</th>
                <th scope="col">read</th>
                {VERDICTS.map((verdict) => (
                  <th key={verdict} scope="col" className="max-sm:hidden">
                    <span className={`inline-flex items-baseline gap-1 ${VERDICT_INK[verdict]}`}>
                      <VerdictShape verdict={verdict} />
                      {verdict}
                    </span>
                  </th>
                ))}
                <th scope="col" className="text-left! max-sm:hidden">
                  by
                </th>
                <th scope="col">on the whole</th>
                <th scope="col">range and next</th>
                <th scope="col">range, 9 in 10</th>
                <th scope="col">between changes</th>
                <th scope="col">the next one</th>
              </tr>
            </thead>
            <tbody>
              {lines.map((line) => (
                <Line key={line.key} line={line} most={most} />
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  );
}

function Line({ line, most }: { line: ScoreLine; most: number }) {
  const { pooled } = line;
  const mark = pooled ? markOf(pooled.measure, pooled) : 'unclear';
  const ratio = (log: number) => Math.exp(log);
  return (
    <tr title={lineSentence(line.name, line)}>
      <th scope="row" className="text-base-content! max-sm:whitespace-normal!">
        {line.name}
        {line.rounds > 0 && (
          <span className="muted font-normal">
            {' '}
            ({line.rounds} from {line.rounds === 1 ? 'a round' : 'rounds'})
          </span>
        )}
      </th>
      <td>{line.changes}</td>
      {VERDICTS.map((verdict) => (
        <td key={verdict} className={`max-sm:hidden ${line[verdict] === 0 ? 'muted' : ''}`}>
          {line[verdict]}
        </td>
      ))}
      <td className="muted text-left! max-sm:hidden">{pooled?.measure ?? ABSENT}</td>
      <td className={VERDICT_INK[mark]}>
        <b>{pooled ? netPercent(ratio(pooled.net)) : ABSENT}</b>
      </td>
      <td>
        {pooled && (
          <span className="relative inline-block">
            {pooled.next && <NextBar next={pooled.next} most={most} />}
            <RangeBar range={pooled} most={most} level={Math.log1p(HELD_WITHIN)} mark={mark} />
          </span>
        )}
      </td>
      <td className="muted">
        {pooled ? `${boundPercent(ratio(pooled.low))} to ${boundPercent(ratio(pooled.high))}` : ABSENT}
      </td>
      <td className="muted">
        {pooled && pooled.counted > 1 ? `±${share(Math.expm1(pooled.spread))}` : ABSENT}
      </td>
      <td className="muted">
        {pooled?.next
          ? `${netPercent(ratio(pooled.next.low))} to ${netPercent(ratio(pooled.next.high))}`
          : ABSENT}
      </td>
    </tr>
  );
}

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
