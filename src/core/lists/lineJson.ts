import { z } from 'zod';
import { INTENTS } from '../model/intents';
import { jsonFrom } from '../model/json';
import type { ListLine } from './line';

const number = z.number().nullable();

/** Columns besides the measures, of which a line has some. */
const further = {
  expectedCtr: number.meta({ description: 'The CTR usual on this site at the same positions.' }),
  queries: number,
  pages: number,
  searches: number.meta({ description: 'A month.' }),
  changes: number,
  findings: number,
  weight: number,
  sessions: number,
  engagedShare: number,
  conversions: number,
  revenue: number,
  worth: number,
};
const FURTHER = Object.keys(further) as (keyof typeof further)[];

/** A line of a list of pages, queries or pairs of both, as the API answers with it. */
const lineJson = jsonFrom(
  z
    .object({
      page: z.string().nullable().meta({ description: 'The address.' }),
      pageId: z.int().nullable(),
      query: z.string().nullable(),
      queryId: z.int().nullable(),
      clicks: number,
      impressions: number,
      ctr: number,
      position: number,
      appeal: number,
      difference: z
        .object({ clicks: number, impressions: number, ctr: number, placesGained: number, appeal: number })
        .nullable(),
      ...further,
      title: z.string().nullable(),
      group: z.string().nullable(),
      brand: z.boolean().nullable(),
      intent: z.enum(INTENTS).nullable(),
      target: z.string().nullable(),
    })
    .meta({ id: 'ListLine' }),
  (line: ListLine) => {
    const { clicks, impressions, ctr, position, appeal } = line.metrics;
    const difference = {
      clicks: clicks.difference,
      impressions: impressions.difference,
      ctr: ctr.difference,
      placesGained: position.placesGained,
      appeal: appeal.difference,
    };
    return {
      ...line,
      ...(Object.fromEntries(FURTHER.map((name) => [name, line.further[name] ?? null])) as Record<
        keyof typeof further,
        number | null
      >),
      page: line.page?.address ?? null,
      pageId: line.page?.id ?? null,
      query: line.query?.text ?? null,
      queryId: line.query?.id ?? null,
      clicks: clicks.after,
      impressions: impressions.after,
      ctr: ctr.after,
      position: position.after,
      appeal: appeal.after,
      difference: clicks.before === null ? null : difference,
    };
  },
);

export const listJson = z.object({
  items: z.array(lineJson),
  total: z.int(),
  next: z.string().nullable().meta({ description: 'The cursor of the lines after these.' }),
});
