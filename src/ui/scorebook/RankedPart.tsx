import Link from 'next/link';
import { HELD_WITHIN, type Mark } from '@/core/effect/verdict';
import type { Scorebook } from '@/core/scorebook/book';
import type { Ranked } from '@/core/scorebook/ranked';
import { packed } from '@/core/lists/packed';
import { mediumDay, netPercent, plural, share } from '@/core/words/format';
import { Z90 } from '@/core/statistics/normal';
import { Part } from '../reading/HowTo';
import { RangeBar } from '../reading/RangeBar';
import { routes } from '../shell/routes';
import { UnmovedList } from './UnmovedList';

const SHOWN = 8;
const MOST_SCALE = Math.log(1.8);

/** Winners and losers by their effect drawn toward their kind, and those that did not move. */
export function RankedPart({ book }: { book: Scorebook }) {
  const called = book.ranked.filter(({ p }) => p <= 0.1);
  const winners = called.filter(({ raw }) => raw > 0);
  const losers = called.filter(({ raw }) => raw < 0).reverse();
  const unmoved = book.ranked.filter(
    ({ p, scored }) => p > 0.1 && scored.verdict !== 'lifted' && scored.changeId !== null,
  );
  const reach = Math.max(
    0,
    ...called.map(({ shrunken, standardError }) => Math.abs(shrunken) + Z90 * standardError),
  );
  const most = Math.min(MOST_SCALE, Math.max(Math.log(1.25), reach));
  return (
    <Part
      title="Winners and losers"
      howTo={
        <p>
          Picking winners picks luck too: the largest effects are those that chance made larger. Each is
          therefore drawn toward what its kind usually brings, the more so the less is known of it; the effect
          as read stands beside it. Some of those called had no effect in truth: the share to expect is that
          of Benjamini and Hochberg.
        </p>
      }
    >
      <p className="mb-1 text-[0.93rem]">
        {called.length === 0
          ? 'Nothing that was read plainly moved anything.'
          : `${called.length} of ${plural(book.read, 'change')} plainly moved something${
              book.expectedFalse === null
                ? ''
                : `; up to ${share(book.expectedFalse)} of these can be expected to be chance`
            }.`}
      </p>
      <Lines list={winners.slice(0, SHOWN)} name="Winners" most={most} />
      <Lines list={losers.slice(0, SHOWN)} name="Losers" most={most} />
      {unmoved.length > 0 && (
        <UnmovedList
          count={unmoved.length}
          lines={packed(
            unmoved.map(({ scored, raw }) => ({
              title: scored.title,
              href: whereOf(scored),
              raw: netPercent(Math.exp(raw)),
              again: routes.changeAfter(scored.siteId, scored.changeId!, 'rework'),
            })),
          )}
        />
      )}
    </Part>
  );
}

function whereOf({ siteId, changeId, roundId }: Ranked['scored']): string {
  return roundId === null ? routes.change(siteId, changeId!) : routes.round(siteId, roundId);
}

function Lines({ list, name, most }: { list: readonly Ranked[]; name: string; most: number }) {
  if (list.length === 0) return null;
  return (
    <table className="figures dense mb-3 text-[0.88rem]">
      <caption className="sr-only">{name}</caption>
      <thead>
        <tr>
          <th scope="col">{name.toLowerCase()}</th>
          <th scope="col" className="text-left! max-sm:hidden">
            by
          </th>
          <th scope="col">drawn to its kind</th>
          <th scope="col" className="max-sm:hidden">
            <span className="sr-only">picture</span>
          </th>
          <th scope="col">as read</th>
        </tr>
      </thead>
      <tbody>
        {list.map(({ scored, shrunken, raw, standardError, measure }) => {
          const half = Z90 * standardError;
          const range = { net: shrunken, low: shrunken - half, high: shrunken + half };
          const mark: Mark = range.low > 0 ? 'lifted' : range.high < 0 ? 'dropped' : 'unclear';
          return (
            <tr key={`${scored.changeId}/${scored.roundId}/${scored.title}`}>
              <th scope="row" className="max-w-72 truncate text-base-content! max-sm:max-w-48">
                <Link href={whereOf(scored)} prefetch={false} className="hover:underline">
                  {scored.title}
                </Link>
                <span className="muted ml-1.5 text-[0.75rem] font-normal">
                  to {mediumDay(scored.after.lastDay)}
                </span>
              </th>
              <td className="muted text-left! max-sm:hidden">{measure}</td>
              <td>
                <b>{netPercent(Math.exp(shrunken))}</b>
              </td>
              <td className="max-sm:hidden">
                <RangeBar range={range} most={most} level={Math.log1p(HELD_WITHIN)} mark={mark} />
                <span className="sr-only">
                  {netPercent(Math.exp(range.low))} to {netPercent(Math.exp(range.high))}
                </span>
              </td>
              <td className="muted">{netPercent(Math.exp(raw))}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}
