import { newEventSchema } from '@/core/model/event';
import { addEvent, listEvents } from '@/store/events';
import { answering } from '@/app/problem';
import { readBody, siteOf, type SiteParams } from '../../../request';
import { eventToJson } from '../../../serialise';

export const GET = answering(async (_request: Request, context: SiteParams) => {
  const { db, site } = await siteOf(context);
  return Response.json(listEvents(db, site.id).map(eventToJson));
});

export const POST = answering(async (request: Request, context: SiteParams) => {
  const { db, site } = await siteOf(context);
  const event = await addEvent(db, site.id, await readBody(request, newEventSchema));
  return Response.json(eventToJson(event), { status: 201 });
});
