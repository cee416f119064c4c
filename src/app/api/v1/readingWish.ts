import type { z } from 'zod';
import { AddressError } from '@/core/address/address';
import { parseIsoDay } from '@/core/calendar/day';
import type { Change, PageRef } from '@/core/model/change';
import type { Site } from '@/core/model/site';
import type { ReadingWish } from '@/services/reading/readChange';
import { pageAddressOf } from '@/store/addresses/pages';
import { Problem } from '@/app/problem';
import type { readingWishSchema } from './readingSchemas';

/** What a reading is narrowed to by its address. Throws Problem 422 where it names a page that the change is not on. */
export function wishOf(
  site: Site,
  change: Change,
  { page, asOf, ...rest }: z.output<typeof readingWishSchema>,
): ReadingWish {
  return {
    ...rest,
    asOf: asOf === undefined ? null : parseIsoDay(asOf),
    pageId: page === undefined ? null : pageOf(change.pages, page, site),
  };
}

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
