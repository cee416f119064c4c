import { answering } from '@/app/problem';
import { EVENT_KINDS } from '@/core/model/event';
import { listEvents } from '@/store/events';
import { calendarAnswer } from '../../../calendar';
import { siteOf, type SiteParams } from '../../../request';

/** The almanac of a site as a calendar. */
export const GET = answering(async (_request: Request, context: SiteParams) => {
  const { db, site } = await siteOf(context);
  const { host } = new URL(site.address);
  const entries = listEvents(db, site.id).map(({ id, name, kind, note, link, firstDay, lastDay }) => ({
    ...{ id: `event-${id}@${host}`, firstDay, lastDay },
    ...{ summary: name, description: note, url: link, category: EVENT_KINDS[kind] },
  }));
  return calendarAnswer(`${site.name}: almanac`, 'almanac.ics', entries);
});
