import { z } from 'zod';
import { newEventSchema } from '@/core/model/event';
import { addEvent, listEvents } from '@/store/ledger/events';
import { eventJson } from '@/core/model/eventJson';
import { toJson } from '@/core/model/json';
import { answer, operation } from '../../../doorway';

export const GET = operation(
  {
    summary: 'List the almanac, newest first',
    on: 'site',
    may: 'read',
    answers: { '200': answer('The events', z.array(eventJson)) },
  },
  ({ db, site }) => Response.json(toJson(z.array(eventJson), listEvents(db, site.id))),
);

export const POST = operation(
  {
    summary: 'Note an outside event',
    on: 'site',
    may: 'log',
    auditAction: 'noted an event',
    body: newEventSchema,
    answers: { '201': answer('The event', eventJson) },
  },
  async ({ db, site, body }) =>
    Response.json(toJson(eventJson, await addEvent(db, site.id, body)), { status: 201 }),
);
