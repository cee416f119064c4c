import { HELD_WITHIN } from '@/core/effect/verdict';
import { FEWEST_WITH_MARK, type MarkEffect } from '@/core/scorebook/marks';
import { TITLE_CHANGE_MARK_NAMES } from '@/core/scorebook/titleChange';
import { netPercent } from '@/core/words/format';
import { Part } from '../reading/HowTo';
import { RangeBar } from '../reading/RangeBar';
import { FiguresTable } from '../kit/table/FiguresTable';

/** Which marks of a title went with more, all others being equal; said with care. */
export function MarksEffects({ marks }: { marks: readonly MarkEffect[] }) {
  return (
    <Part
      title="Marks of titles, one beside the others"
      howTo={
        <p>
          A regression of what new titles brought on what was changed in them, each coefficient drawn toward
          nothing. No lots were drawn for which title got which mark, so a mark may stand for something else
          that came with it: take it as a hint for the next round.
        </p>
      }
    >
      {marks.length === 0 ? (
        <p className="text-[0.93rem]">
          Too few to say: a mark needs {FEWEST_WITH_MARK} titles that took it on, and as many that did not.
        </p>
      ) : (
        <FiguresTable
          label="Marks of titles"
          className="dense text-[0.87rem]"
          hideHead
          rows={marks}
          rowKey={({ mark }) => mark}
          columns={[
            { id: 'mark', cell: ({ mark }) => TITLE_CHANGE_MARK_NAMES[mark] },
            { id: 'changes', cell: ({ changes }) => changes },
            {
              id: 'picture of the range',
              cell: ({ net, low, high }) => (
                <RangeBar
                  range={{ net, low, high }}
                  most={Math.log(1.4)}
                  level={Math.log1p(HELD_WITHIN)}
                  mark={low > 0 ? 'lifted' : high < 0 ? 'dropped' : 'unclear'}
                />
              ),
            },
            {
              id: 'effect',
              cell: ({ net, low, high }) =>
                `${netPercent(Math.exp(net))} (${netPercent(Math.exp(low))} to ${netPercent(Math.exp(high))})`,
            },
          ]}
        />
      )}
    </Part>
  );
}
