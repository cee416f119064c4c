import { addDays } from '../../core/calendar/day';
import { sumIn } from '../../store/figures/pairs';
import type { Shifts } from '../figures/shifts';
import type { SearchContext, Found } from './searchContext';

/** A slip is an opening for so many days. */
const SLIPPED_DAYS = 120;

/** Slipped: pages whose level of clicks fell in a step that the rest of the site did not share. */
export async function slipped(
  { context, figures, span, months, tell }: SearchContext,
  shifts: Shifts,
): Promise<Found[]> {
  const clicksOf = new Map(figures.series.map((page) => [page.id, sumIn(page.clicks, page.firstDay, span)]));
  const since = addDays(span.lastDay, -SLIPPED_DAYS);
  const slips = await shifts.slipped(context, since, tell('Looking for the days on which pages moved'));
  return [...slips].map(([pageId, shift]): Found => {
    const clicks = clicksOf.get(pageId) ?? 0;
    // What it brings now, at the level before.
    const back = (ratio: number) => (clicks / months) * Math.max(0, 1 / ratio - 1);
    return {
      opening: {
        ...{ pageId, queryId: null },
        gain: { clicks: back(shift.ratio), low: back(shift.high), high: back(shift.low) },
        figures: {
          clicks,
          ratio: shift.ratio,
          day: shift.day,
          firstDay: shift.firstDay,
          lastDay: shift.lastDay,
        },
      },
      named: { day: shift.day, part: shift.part, events: shifts.eventsNear(context, shift, pageId) },
    };
  });
}
