import { answering } from '@/app/problem';
import { askReadings } from '@/jobs/readings';
import { siteOf, type SiteParams } from '../../../request';
import { spanWishSchema } from '../../../schemas';
import { readingToItem } from '../../../serialise';

export const GET = answering(async (request: Request, context: SiteParams) => {
  const { site } = await siteOf(context);
  const wish = spanWishSchema.parse(Object.fromEntries(new URL(request.url).searchParams));
  // Written piece by piece: hundreds of readings at once would hold up everybody else.
  const items: string[] = [];
  for await (const some of askReadings(site.id, wish)) {
    items.push(...some.map((reading) => JSON.stringify(readingToItem(reading))));
  }
  return new Response(`{"items":[${items.join(',')}]}`, {
    headers: { 'Content-Type': 'application/json' },
  });
});
