import { answering, Problem } from '@/app/problem';
import { newEventSchema, type OutsideEvent } from '@/core/model/event';
import { database, type Db } from '@/store/database';
import { findStandingEvent, saveEvent, setEventDeleted } from '@/store/events';
import { asId, readBody } from '../../request';
import { eventToJson } from '../../serialise';

type Context = { params: Promise<{ eventId: string }> };

async function eventOf({ params }: Context): Promise<{ db: Db; event: OutsideEvent }> {
  const db = database();
  const { eventId } = await params;
  const event = findStandingEvent(db, asId(eventId));
  if (!event) throw new Problem(404, `There is no event ${eventId}.`);
  return { db, event };
}

export const GET = answering(async (_request: Request, context: Context) => {
  const { event } = await eventOf(context);
  return Response.json(eventToJson(event));
});

export const PUT = answering(async (request: Request, context: Context) => {
  const { db, event } = await eventOf(context);
  await saveEvent(db, event.id, await readBody(request, newEventSchema));
  return Response.json(eventToJson(findStandingEvent(db, event.id)!));
});

export const DELETE = answering(async (_request: Request, context: Context) => {
  const { db, event } = await eventOf(context);
  await setEventDeleted(db, event.id, true);
  return new Response(null, { status: 204 });
});
