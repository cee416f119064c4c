import ical, { escape, type ICalCalendar } from 'ical-generator';
import { addDays, type Day } from '@/core/calendar/day';
import type { Span } from '@/core/calendar/span';

/** Whole days in a calendar, and what they are about. */
export type CalendarEntry = Span & {
  readonly id: string;
  readonly summary: string;
  readonly description: string | null;
  readonly url: string | null;
  readonly category: string | null;
};

const midnight = (day: Day) => new Date(day * 86_400_000);

/** A calendar (RFC 5545) of entries of whole days, as the answer to a request. */
export function calendarAnswer(name: string, fileName: string, entries: readonly CalendarEntry[]): Response {
  const calendar: ICalCalendar = ical({
    // Unlike the texts of events, the library writes this one as it is.
    name: escape(name, false),
    prodId: { company: 'Modest Tally', product: 'Calendar', language: 'EN' },
  });
  for (const { id, firstDay, lastDay, summary, description, url, category } of entries) {
    calendar.createEvent({
      id,
      start: midnight(firstDay),
      // The end of whole days is the day after the last (RFC 5545, 3.6.1).
      end: midnight(addDays(lastDay, 1)),
      allDay: true,
      timezone: 'UTC',
      summary,
      ...(description === null ? {} : { description }),
      ...(url === null ? {} : { url: new URL(url).href }),
      ...(category === null ? {} : { categories: [{ name: category }] }),
    });
  }
  return new Response(calendar.toString(), {
    headers: {
      'Content-Type': 'text/calendar; charset=utf-8',
      'Content-Disposition': `inline; filename="${fileName}"`,
    },
  });
}
