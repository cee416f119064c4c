import ical from 'ical-generator';
import { answering } from '@/app/problem';
import { addDays, type Day } from '@/core/calendar/day';
import { pagePath } from '@/core/address/address';
import { METRIC_NAMES } from '@/core/model/change';
import { listChanges } from '@/store/changes';
import { siteOf, type SiteParams } from '../../../request';

const midnight = (day: Day) => new Date(day * 86_400_000);

/** The review days of a site as a calendar (RFC 5545) that a calendar program can subscribe to. */
export const GET = answering(async (request: Request, context: SiteParams) => {
  const { db, site } = await siteOf(context);
  // What the asker knows this server as, which the address of the request itself does not say.
  const origin = `${new URL(request.url).protocol}//${request.headers.get('host')}`;
  const { host } = new URL(site.address);
  const calendar = ical({
    name: `${site.name}: reviews`,
    prodId: { company: 'Modest Tally', product: 'Reviews', language: 'EN' },
  });
  for (const { id, title, pages, expectation } of listChanges(db, site.id)) {
    const day = expectation?.reviewDay;
    if (day == null) continue;
    calendar.createEvent({
      id: `change-${id}@${host}`,
      start: midnight(day),
      end: midnight(addDays(day, 1)),
      allDay: true,
      timezone: 'UTC',
      summary: `Review: ${title}`,
      description: `${METRIC_NAMES[expectation!.metric]} on ${pages.map((page) => pagePath(page.address)).join(', ')}`,
      url: `${origin}/sites/${site.id}/ledger/${id}`,
    });
  }
  return new Response(calendar.toString(), {
    headers: {
      'Content-Type': 'text/calendar; charset=utf-8',
      'Content-Disposition': 'inline; filename="reviews.ics"',
    },
  });
});
