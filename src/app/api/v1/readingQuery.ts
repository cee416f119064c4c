import { z } from 'zod';
import { AddressError } from '@/core/address/address';
import { parseIsoDay } from '@/core/calendar/day';
import type { Change, PageRef } from '@/core/model/change';
import { isoDaySchema } from '@/core/model/fields';
import { settlingDaysSchema, windowDaysSchema, type Site } from '@/core/model/site';
import { NARROW_DEVICES } from '@/core/reading/narrowing';
import type { ReadingQuery } from '@/services/reading/readChange';
import { pageAddressOf } from '@/store/addresses/pages';
import { Problem } from '@/app/problem';

/** Spans asked for in the address of a reading; numbers written as text. */
export const spanQuerySchema = z.strictObject({
  windowDays: z.coerce.number().pipe(windowDaysSchema).optional(),
  settlingDays: z.coerce.number().pipe(settlingDaysSchema).optional(),
});

/** What a reading is narrowed to in its address, besides its spans. */
export const readingQuerySchema = spanQuerySchema.extend({
  query: z
    .string()
    .trim()
    .min(1, 'The query is empty.')
    .max(500, 'At most 500 characters.')
    .optional()
    .meta({ description: 'The exact query, on the pages of the change.' }),
  device: z.enum(NARROW_DEVICES, `The device must be one of ${NARROW_DEVICES.join(', ')}.`).optional(),
  country: z.string().trim().min(1, 'The country is empty.').max(60).optional().meta({
    description: 'A country as the figures name it.',
  }),
  asOf: isoDaySchema.optional().meta({
    description: 'Reads as it would have been read with the figures up to this day.',
  }),
  page: z.string().trim().min(1, 'The page is empty.').max(2048).optional().meta({
    description: 'One of the pages of the change: its address, or its path.',
  }),
});

const writtenSpan = z
  .string()
  .trim()
  .max(30)
  .meta({ description: 'Two days with two dots between: FROM..TO.' });

/** What is asked for in the address of a comparison. */
export const comparisonQuerySchema = z.strictObject({
  pages: z.string().trim().min(1, 'No page is named.').max(20_000).optional().meta({
    description: 'Addresses or paths of pages, separated by commas; absent: the whole site.',
  }),
  query: z.string().trim().min(1, 'The query is empty.').max(500, 'At most 500 characters.').optional(),
  device: z.enum(NARROW_DEVICES, `The device must be one of ${NARROW_DEVICES.join(', ')}.`).optional(),
  before: writtenSpan,
  after: writtenSpan,
  asOf: isoDaySchema.optional(),
});

/** What a reading is narrowed to by its address. Throws Problem 422 where it names a page that the change is not on. */
export function readingQueryOf(
  site: Site,
  change: Change,
  { page, asOf, ...rest }: z.output<typeof readingQuerySchema>,
): ReadingQuery {
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
