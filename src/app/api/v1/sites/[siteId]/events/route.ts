import { z } from 'zod';
import { newEventSchema } from '@/core/model/event';
import { addEvent, listEvents } from '@/store/ledger/events';
import { answer, operation } from '../../../doorway';
import { eventJson } from '../../../schemas';
import { eventToJson } from '../../../serialise';

export const GET = operation(
  {
    summary: 'List the almanac, newest first',
    on: 'site',
    may: 'read',
    answers: { '200': answer('The events', z.array(eventJson)) },
  },
  ({ db, site }) => Response.json(listEvents(db, site.id).map(eventToJson)),
);

export const POST = operation(
  {
    summary: 'Note an outside event',
    on: 'site',
    may: 'log',
    did: 'noted an event',
    body: newEventSchema,
    answers: { '201': answer('The event', eventJson) },
  },
  async ({ db, site, body }) =>
    Response.json(eventToJson(await addEvent(db, site.id, body)), { status: 201 }),
);
