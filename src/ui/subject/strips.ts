import type { Change } from '@/core/model/change';
import type { OutsideEvent } from '@/core/model/event';
import type { CheckedPosition, SubjectDays } from '@/core/history/subjectDays';
import type { ResultsEvent } from '@/core/wording/days';
import type { StripsData } from '../reading/strips/data';

/** What the strips of a page, a query, a group or the site show: no spans, but strokes and bands. */
export function subjectStrips(
  days: SubjectDays,
  changes: readonly Change[],
  events: readonly OutsideEvent[],
  checked: readonly CheckedPosition[] = [],
  results: readonly ResultsEvent[] = [],
): StripsData {
  const { shown } = days;
  const strip = (metric: 'clicks' | 'impressions' | 'appeal' | 'position') => ({
    ...{ metric, values: days[metric], before: null, after: null, path: null, mark: null },
  });
  const points = checked.flatMap(({ day, position }) =>
    position === null ? [] : [{ day, value: position }],
  );
  const within = (first: number, last = first) => last >= shown.firstDay && first <= shown.lastDay;
  return {
    shown,
    ...{ compared: null, planned: null, lastReadable: shown.lastDay },
    strips: [...[strip('clicks'), strip('impressions')], { ...strip('position'), points }, strip('appeal')],
    changes: changes
      .filter(({ day }) => within(day))
      .map(({ id, day, title }) => ({ id, day, title, own: false })),
    seen: results.filter(({ to }) => within(to)).map(({ to, text }) => ({ day: to, text })),
    events: events
      .filter(({ hidden, firstDay, lastDay }) => !hidden && within(firstDay, lastDay))
      .map(({ id, name, firstDay, lastDay }) => ({ id, name, firstDay, lastDay })),
  };
}
