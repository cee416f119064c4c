import { answering } from '@/app/problem';
import { askReadings } from '@/jobs/readings';
import { siteOf, type SiteParams } from '../../../request';
import { spanWishSchema } from '../../../schemas';
import { readingsToJson } from '../../../serialise';

export const GET = answering(async (request: Request, context: SiteParams) => {
  const { site } = await siteOf(context);
  const wish = spanWishSchema.parse(Object.fromEntries(new URL(request.url).searchParams));
  return Response.json(readingsToJson(await askReadings(site.id, wish)));
});
