import { AddressError } from '@/core/address/address';
import { parseIsoDay } from '@/core/calendar/day';
import type { PageRef } from '@/core/model/change';
import type { Site } from '@/core/model/site';
import { ask } from '@/jobs/questions/ask';
import { pageAddressOf } from '@/store/addresses/pages';
import { Problem } from '@/app/problem';
import { answer, operation } from '../../../doorway';
import { readingJson, readingWishSchema } from '../../../readingSchemas';
import { readingToJson } from '../../../serialise';

export const GET = operation(
  {
    summary: 'Read a change before and after',
    on: 'change',
    query: readingWishSchema,
    answers: { '200': answer('The reading', readingJson) },
  },
  async ({ site, change, query: { page, asOf, ...rest } }) => {
    const wish = { ...rest, asOf: asOf === undefined ? null : parseIsoDay(asOf) };
    const pageId = page === undefined ? null : pageOf(change.pages, page, site);
    const reading = await ask('reading', { changeId: change.id, wish: { ...wish, pageId } });
    if (!reading) throw new Problem(404, `There is no change ${change.id}.`);
    return Response.json(readingToJson(reading));
  },
);

/** The id of a page of the change. Throws Problem 422 where it is none of them. */
function pageOf(pages: readonly PageRef[], text: string, site: Site): number {
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
