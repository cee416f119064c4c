import { AddressError } from '@/core/address/address';
import type { Site } from '@/core/model/site';
import { pageAddressOf } from '@/store/pages';
import { Problem, answering } from '@/app/problem';
import { askReading } from '@/jobs/readings';
import { changeOf, type ChangeParams } from '../../../request';
import { readingWishSchema } from '../../../schemas';
import { readingToJson } from '../../../serialise';

export const GET = answering(async (request: Request, context: ChangeParams) => {
  const { site, change } = await changeOf(context);
  const { page, ...wish } = readingWishSchema.parse(Object.fromEntries(new URL(request.url).searchParams));
  const pageId = page === undefined ? null : pageOf(change.pages, page, site);
  const reading = await askReading(change.id, { ...wish, pageId });
  if (!reading) throw new Problem(404, `There is no change ${change.id}.`);
  return Response.json(readingToJson(reading));
});

/** The id of a page of the change. Throws Problem 422 where it is none of them. */
function pageOf(pages: readonly { id: number; address: string }[], text: string, site: Site): number {
  let address: string;
  try {
    address = pageAddressOf(site, text);
  } catch (error) {
    if (error instanceof AddressError) throw new Problem(422, error.message);
    throw error;
  }
  const found = pages.find((page) => page.address === address);
  if (!found) throw new Problem(422, `The change is not on the page ${address}.`);
  return found.id;
}
