import { AddressError } from '@/core/address/address';
import { parseIsoDay } from '@/core/calendar/day';
import { MOST_SPAN_DAYS, parseSpan, spanLength, type Span } from '@/core/calendar/span';
import type { Site } from '@/core/model/site';
import { toJson } from '@/core/model/json';
import { ask } from '@/app/ask';
import { listPages, pageAddressOf } from '@/store/addresses/pages';
import type { Db } from '@/store/database';
import { Problem } from '@/app/problem';
import { siteComparisonJson } from '@/core/reading/comparisonJson';
import { answer, operation } from '../../../doorway';
import { comparisonQuerySchema } from '../../../readingQuery';

export const GET = operation(
  {
    summary: 'Compare pages, a query, a device or the whole site over any two spans',
    on: 'site',
    may: 'read',
    query: comparisonQuerySchema,
    answers: { '200': answer('The comparison', siteComparisonJson) },
  },
  async ({ db, site, query: { pages, query = null, device = null, before, after, asOf } }) => {
    const spans = { before: spanOf(before, 'before'), after: spanOf(after, 'after') };
    if (spans.after.firstDay <= spans.before.lastDay)
      throw new Problem(422, 'The after span must begin later than the before span ends.');
    const wanted = pages === undefined ? null : pagesOf(db, site, pages);
    const wish = { pageIds: wanted && wanted.map(({ id }) => id), query, device, ...spans };
    const known = asOf === undefined ? null : parseIsoDay(asOf);
    const found = await ask('comparison', { siteId: site.id, wish, asOf: known });
    if (!found) throw new Problem(409, 'There are no figures yet to compare.');
    return Response.json(
      toJson(siteComparisonJson, {
        ...found,
        ...spans,
        subject: { pages: wanted, query, device },
        asOf: known,
        movedIn: found.moved?.movedIn ?? null,
      }),
    );
  },
);

/** A span written as FROM..TO. Throws Problem 422 where it is none. */
function spanOf(text: string, name: string): Span {
  const span = parseSpan(text);
  if (!span)
    throw new Problem(422, `Write ${name} as two days, the first and the last: 2026-08-01..2026-08-28.`);
  if (spanLength(span) > MOST_SPAN_DAYS)
    throw new Problem(422, `A span has at most ${MOST_SPAN_DAYS} days; ${name} has ${spanLength(span)}.`);
  return span;
}

/** The pages that a list of addresses or paths names, separated by commas. Throws Problem 422 where one is none of the site. */
function pagesOf(db: Db, site: Site, text: string) {
  const known = new Map(listPages(db, site.id).map((page) => [page.address, page]));
  const wanted = text.split(',').map((one) => one.trim());
  return [...new Set(wanted.filter(Boolean))].map((one) => {
    try {
      const page = known.get(pageAddressOf(site, one));
      if (page) return page;
    } catch (error) {
      if (error instanceof AddressError) throw new Problem(422, error.message);
      throw error;
    }
    throw new Problem(422, `There is no page ${one} with figures or changes on this site.`);
  });
}
