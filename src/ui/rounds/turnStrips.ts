import { addDays, type Day } from '@/core/calendar/day';
import { inSpan, type Span } from '@/core/calendar/span';
import type { SubjectDays } from '@/core/history/subjectDays';
import type { OutsideEvent } from '@/core/model/event';
import { markOfRound, type HalfTotals, type TurnReading } from '@/core/rounds/reading';
import type { RoundMeasure } from '@/core/measures/registry';
import type { StripsData } from '../reading/strips/data';

type Picture = { readonly shown: Span; readonly changed: SubjectDays; readonly waiting: SubjectDays | null };
type Name = 'appeal' | 'clicks' | 'impressions' | 'position';

const MEASURE_OF: Readonly<Record<Name, RoundMeasure>> = {
  ...{ appeal: 'appeal', clicks: 'clicks', impressions: 'showings', position: 'rank' },
};

/** The strips of a turn: the changed half solid, the other dashed and brought to the same level before. */
export function turnStrips(
  turn: TurnReading,
  { shown, changed, waiting }: Picture,
  label: string,
  events: readonly OutsideEvent[],
  changeId: number | null,
): StripsData {
  const { before, after, read } = turn;
  const days = (span: Span) => span.lastDay - span.firstDay + 1;
  const level = (name: Name, totals: HalfTotals, span: Span) =>
    name === 'clicks' || name === 'impressions' ? totals[name] / days(span) : totals[name];
  return {
    shown,
    compared: { before, after: read },
    planned: { before, after },
    lastReadable: read ? read.lastDay : (addDays(before.lastDay, 0) as Day),
    strips: (['appeal', 'clicks', 'impressions', 'position'] as const).map((metric) => {
      const was = level(metric, turn.changed.before, before);
      const theirs = turn.waiting && level(metric, turn.waiting.before, before);
      const ratio = was !== null && theirs ? was / theirs : null;
      return {
        metric,
        values: changed[metric],
        before: was,
        after: read && level(metric, turn.changed.after, read),
        path:
          waiting && ratio !== null
            ? waiting[metric].map((value) => (value === null ? null : value * ratio))
            : null,
        mark:
          turn.verdict === 'waiting'
            ? null
            : markOfRound(MEASURE_OF[metric], turn.effects[MEASURE_OF[metric]]),
      };
    }),
    changes: inSpan(turn.day, shown) ? [{ id: changeId ?? 0, day: turn.day, title: label, own: true }] : [],
    events: events
      .filter(
        ({ hidden, firstDay, lastDay }) => !hidden && lastDay >= shown.firstDay && firstDay <= shown.lastDay,
      )
      .map(({ id, name, firstDay, lastDay }) => ({ id, name, firstDay, lastDay })),
  };
}
