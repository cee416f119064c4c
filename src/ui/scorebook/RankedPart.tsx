import { AppLink } from '../kit/AppLink';
import { HELD_WITHIN } from '@/core/effect/verdict';
import type { Scorebook } from '@/core/scorebook/book';
import { adjustedRange, winnersAndLosers, type Ranked } from '@/core/scorebook/ranked';
import { packed } from '@/core/lists/packed';
import { count, mediumDay, netPercent, plural, share } from '@/core/words/format';
import { FiguresTable } from '../kit/table/FiguresTable';
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
    <div className="mb-3">
      <FiguresTable
        label={name}
        className="dense text-[0.88rem]"
        rows={list.map((one) => ({ ...one, range: adjustedRange(one) }))}
        rowKey={({ scored }) => `${scored.changeId}/${scored.roundId}/${scored.title}`}
        columns={[
          {
            id: name.toLowerCase(),
            cellClass: 'max-w-72 truncate max-sm:max-w-48',
            value: ({ scored }) => scored.title,
            cell: ({ scored }) => (
              <>
                <AppLink href={whereOf(scored)} className="hover:underline">
                  {scored.title}
                </AppLink>
                <span className="muted block truncate text-[0.75rem] font-normal">
                  {countedText(scored.counted)}to {mediumDay(scored.after.lastDay)}
                </span>
              </>
            ),
          },
          {
            id: 'by',
            text: true,
            className: 'max-sm:hidden',
            cellClass: 'muted',
            value: ({ measure }) => measure,
          },
          {
            id: 'adjusted effect',
            value: ({ shrunken }) => shrunken,
            cell: ({ shrunken }) => <b>{netPercent(Math.exp(shrunken))}</b>,
          },
          {
            id: 'picture',
            hideHead: true,
            className: 'max-sm:hidden',
            cell: ({ range }) => (
              <>
                <RangeBar
                  range={range}
                  most={most}
                  level={Math.log1p(HELD_WITHIN)}
                  mark={range.low > 0 ? 'lifted' : 'dropped'}
                />
                <span className="sr-only">
                  {netPercent(Math.exp(range.low))} to {netPercent(Math.exp(range.high))}
                </span>
              </>
            ),
          },
          {
            id: 'as read',
            cellClass: 'muted',
            value: ({ raw }) => raw,
            cell: ({ raw }) => netPercent(Math.exp(raw)),
          },
        ]}
      />
    </div>
  );
}

/** The clicks as counted, to stand before the last day that was read. */
function countedText(counted: Ranked['scored']['counted']): string {
  if (counted?.before == null || counted.after === null) return '';
  return `${count(counted.before)} → ${count(counted.after)} clicks, `;
}
