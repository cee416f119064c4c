import { AppLink } from '../kit/AppLink';
import { HELD_WITHIN, type Mark } from '@/core/effect/verdict';
import type { Scorebook } from '@/core/scorebook/book';
import { adjustedRange, winnersAndLosers, type Ranked } from '@/core/scorebook/ranked';
import { packed } from '@/core/lists/packed';
import { count, mediumDay, netPercent, plural, share } from '@/core/words/format';
import { Part } from '../reading/HowTo';
import { RangeBar } from '../reading/RangeBar';
import { routes } from '../shell/routes';
import { UnmovedList } from './UnmovedList';

const SHOWN = 8;
const MOST_SCALE = Math.log(1.8);

/** Winners and losers by their effect drawn toward their kind, and those that did not move. */
export function RankedPart({ book }: { book: Scorebook }) {
  const { winners, losers, rest } = winnersAndLosers(book.ranked);
  const plain = winners.length + losers.length;
  const unmoved = rest.filter(
    ({ scored: { verdict, changeId } }) => (verdict === 'held' || verdict === 'unclear') && changeId !== null,
  );
  const reach = Math.max(
    0,
    ...[...winners, ...losers].map((one) => {
      const { low, high } = adjustedRange(one);
      return Math.max(Math.abs(low), Math.abs(high));
    }),
  );
  const most = Math.min(MOST_SCALE, Math.max(Math.log(1.25), reach));
  return (
    <Part
      title="Winners and losers"
      howTo={
        <p>
          Picking winners picks luck too: the largest effects are those that chance made larger. So each
          effect is adjusted toward what its type of change usually brings, the more so the less certain it
          is. A change is listed only if its adjusted range excludes no effect. The effect as read stands
          beside it. The share of chance findings is estimated as Benjamini and Hochberg do.
        </p>
      }
    >
      <p className="mb-1 text-[0.93rem]">
        {plain === 0
          ? `None of ${plural(book.read, 'change')} plainly lifted or dropped anything after adjustment.`
          : `${count(plain)} of ${plural(book.read, 'change')} plainly lifted or dropped something, also after adjustment.`}{' '}
        {book.expectedFalse !== null &&
          `Up to ${share(book.expectedFalse)} of the effects as read that look plain can be expected to be chance.`}
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
          <th scope="col">adjusted effect</th>
          <th scope="col" className="max-sm:hidden">
            <span className="sr-only">picture</span>
          </th>
          <th scope="col">as read</th>
        </tr>
      </thead>
      <tbody>
        {list.map((one) => {
          const { scored, shrunken, raw, measure } = one;
          const range = adjustedRange(one);
          const mark: Mark = range.low > 0 ? 'lifted' : 'dropped';
          return (
            <tr key={`${scored.changeId}/${scored.roundId}/${scored.title}`}>
              <th scope="row" className="max-w-72 truncate text-base-content! max-sm:max-w-48">
                <AppLink href={whereOf(scored)} className="hover:underline">
                  {scored.title}
                </AppLink>
                <span className="muted block truncate text-[0.75rem] font-normal">
                  {countedText(scored.counted)}to {mediumDay(scored.after.lastDay)}
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

/** The clicks as counted, to stand before the last day that was read. */
function countedText(counted: Ranked['scored']['counted']): string {
  if (counted?.before == null || counted.after === null) return '';
  return `${count(counted.before)} → ${count(counted.after)} clicks, `;
}
