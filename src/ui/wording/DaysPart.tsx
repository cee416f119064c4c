import { AppLink } from '../kit/AppLink';
import { daysSentence, type DaysCompared } from '@/core/wording/days';
import {
  ABOVE_NAMES,
  RESULT_EXTRA_NAMES,
  RESULT_KIND_NAMES,
  type ResultPage,
} from '@/core/wording/resultPage';
import { mediumDay, plural, shortDay } from '@/core/words/format';
import { Part } from '../reading/HowTo';
import { FiguresTable } from '../kit/table/FiguresTable';

type Props = {
  siteId: number;
  before: ResultPage;
  after: ResultPage;
  compared: DaysCompared;
  isOwn: (address: string) => boolean;
  others: readonly ResultPage[];
  /** The address of this screen against another day. */
  choose: (id: number) => string;
};

/** A result of the later day, or one that is gone and has no rank. */
type DayLine = {
  readonly rank: number | null;
  readonly result: ResultPage['results'][number];
  readonly both: DaysCompared['stayed'][number] | null;
};

/** Two days side by side: who came, went, moved and reworded. */
export function DaysPart({ before, after, compared, isOwn, others, choose }: Props) {
  const { came, went, stayed, aboveCame, aboveWent, kindChanged } = compared;
  const lines = [
    ...stayed.map((both) => ({ rank: both.after.rank, result: both.after, both })),
    ...came.map((result) => ({ rank: result.rank, result, both: null })),
  ].sort((a, b) => a.rank - b.rank);
  return (
    <Part title={`Since ${mediumDay(before.day)}`}>
      <p>
        {daysSentence(compared)}
        {aboveCame.length > 0 &&
          ` ${upper(aboveCame.map((kind) => ABOVE_NAMES[kind]).join(', '))} appeared above them.`}
        {aboveWent.length > 0 &&
          ` ${upper(aboveWent.map((kind) => ABOVE_NAMES[kind]).join(', '))} went from above them.`}
        {kindChanged &&
          ` Most were ${RESULT_KIND_NAMES[kindChanged.from]}s and are ${RESULT_KIND_NAMES[kindChanged.to]}s now.`}
      </p>
      <FiguresTable<DayLine>
        label="Results of both days"
        className="dense mt-1 text-[0.85rem]"
        sortable={false}
        rows={[...lines, ...went.map((result) => ({ rank: null, result, both: null }))]}
        rowKey={({ result }) => result.address}
        rowClass={({ rank, result }) =>
          rank !== null && isOwn(result.address) ? 'bg-base-300/60' : undefined
        }
        columns={[
          { id: 'rank', cell: ({ rank }) => rank ?? <span className="muted">–</span> },
          {
            id: 'result',
            name: `on ${shortDay(after.day)}`,
            text: true,
            cell: ({ rank, result, both }) => (
              <>
                <span className={rank === null ? 'muted' : ''}>{result.title}</span>
                {both?.retitled && <span className="muted block">was: {both.before.title}</span>}
              </>
            ),
          },
          {
            id: 'moved',
            name: `since ${shortDay(before.day)}`,
            text: true,
            cell: ({ rank, result, both }) =>
              both ? movedText(both) : rank === null ? `went, from ${result.rank}` : 'came',
          },
        ]}
      />
      {others.length > 1 && (
        <p className="muted mt-1 text-[0.85rem]">
          Against{' '}
          {others
            .filter(({ id }) => id !== before.id)
            .slice(0, 5)
            .map((one, i) => (
              <span key={one.id}>
                {i > 0 && ', '}
                <AppLink href={choose(one.id)} className="inline-link" scroll={false}>
                  {shortDay(one.day)}
                </AppLink>
              </span>
            ))}{' '}
          instead
        </p>
      )}
    </Part>
  );
}

function upper(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}

function movedText({ gained, extrasGained, extrasLost }: DaysCompared['stayed'][number]): string {
  return (
    [
      gained === 0 ? '' : `${gained > 0 ? 'up' : 'down'} ${plural(Math.abs(gained), 'place')}`,
      extrasLost.length > 0 ? `lost ${extrasLost.map((extra) => RESULT_EXTRA_NAMES[extra]).join(', ')}` : '',
      extrasGained.length > 0
        ? `now with ${extrasGained.map((extra) => RESULT_EXTRA_NAMES[extra]).join(', ')}`
        : '',
    ]
      .filter(Boolean)
      .join('; ') || 'as it was'
  );
}
