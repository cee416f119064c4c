import { EVENT_KINDS } from '@/core/model/event';
import { listEvents } from '@/store/ledger/events';
import { calendarAnswer } from '../../../calendar';
import { calendar, operation } from '../../../doorway';

export const GET = operation(
  { summary: 'The almanac as a calendar (RFC 5545)', on: 'site', may: 'read', answers: { '200': calendar } },
  ({ db, site }) => {
    const { host } = new URL(site.address);
    const entries = listEvents(db, site.id).map(({ id, name, kind, note, link, firstDay, lastDay }) => ({
      ...{ id: `event-${id}@${host}`, firstDay, lastDay },
      ...{ summary: name, description: note, url: link, category: EVENT_KINDS[kind] },
    }));
    return calendarAnswer(`${site.name}: almanac`, 'almanac.ics', entries);
  },
);
