import { readingOf } from '@/store/readings';
import { answering } from '@/app/problem';
import { changeOf, type ChangeParams } from '../../../request';
import { spanWishSchema } from '../../../schemas';
import { readingToJson } from '../../../serialise';

export const GET = answering(async (request: Request, context: ChangeParams) => {
  const { db, site, change } = await changeOf(context);
  const wish = spanWishSchema.parse(Object.fromEntries(new URL(request.url).searchParams));
  return Response.json(readingToJson(readingOf(db, site, change, wish)));
});
