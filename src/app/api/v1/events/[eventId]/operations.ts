import { newEventSchema } from '@/core/model/event';
import { findStandingEvent, saveEvent, setEventDeleted } from '@/store/ledger/events';
import { eventJson } from '@/core/model/eventJson';
import { toJson } from '@/core/model/json';
import { answer, empty, operation } from '../../doorway';

export const GET = operation(
  { summary: 'One event', on: 'event', may: 'read', answers: { '200': answer('The event', eventJson) } },
  ({ event }) => Response.json(toJson(eventJson, event)),
);

export const PUT = operation(
  {
    summary: 'Edit an event',
    on: 'event',
    may: 'edit',
    auditAction: 'edited an event',
    body: newEventSchema,
    answers: { '200': answer('The event', eventJson) },
  },
  async ({ db, event, body, guard }) => {
    await saveEvent(db, event.id, body, guard);
    return Response.json(toJson(eventJson, findStandingEvent(db, event.id)!));
  },
);

export const DELETE = operation(
  {
    summary: 'Delete an event',
    on: 'event',
    may: 'edit',
    auditAction: 'deleted an event',
    answers: { '204': empty('Deleted') },
  },
  async ({ db, event, guard }) => {
    await setEventDeleted(db, event.id, true, guard);
    return new Response(null, { status: 204 });
  },
);
