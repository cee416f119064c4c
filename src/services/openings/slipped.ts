import { addDays } from '../../core/calendar/day';
import { sumIn } from '../../store/figures/pairs';
import type { Shifts } from '../shifts';
import type { Work, Found } from './work';

/** A slip is an opening for so many days. */
const SLIPPED_DAYS = 120;

export function slipped({ context, figures, span, months }: Work, shifts: Shifts): Found[] {
  const clicksOf = new Map(figures.series.map((page) => [page.id, sumIn(page.clicks, page.firstDay, span)]));
  return [...shifts.slipped(context, addDays(span.lastDay, -SLIPPED_DAYS))].map(([pageId, shift]): Found => {
    const clicks = clicksOf.get(pageId) ?? 0;
    // What it brings now, at the level before.
    const back = (ratio: number) => (clicks / months) * Math.max(0, 1 / ratio - 1);
    return {
      opening: {
        ...{ kind: 'slipped', pageId, queryId: null },
        gain: { clicks: back(shift.ratio), low: back(shift.high), high: back(shift.low) },
        figures: {
          clicks,
          ratio: shift.ratio,
          day: shift.day,
          firstDay: shift.firstDay,
          lastDay: shift.lastDay,
        },
      },
      named: { day: shift.day },
    };
  });
}
