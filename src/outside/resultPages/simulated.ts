import { z } from 'zod';
import { parseIsoDay, type Day } from '../../core/calendar/day';
import { isoDaySchema } from '../../core/model/fields';
import { ABOVE_KINDS, RESULT_EXTRAS, RESULT_KINDS, type NewResultPage } from '../../core/wording/resultPage';
import type { SimulatedPage } from '../sitePages/simulated';
import { SourceRefused, type ResultSource } from './source';

/*
 * What the searches of a made-up world show: rivals with their titles through time, and the own page where it stands. It is a file that the
 * demo leaves and that anybody may edit.
 */

const between = { from: isoDaySchema.optional(), until: isoDaySchema.optional() };
const rivalSchema = z.object({
  address: z.string(),
  /** Titles with the day from which each was shown, the first without. */
  titles: z.array(z.object({ from: isoDaySchema.optional(), title: z.string() })).min(1),
  description: z.string(),
  kind: z.enum(RESULT_KINDS).optional(),
  dateShown: z.string().optional(),
  extras: z.array(z.object({ extra: z.enum(RESULT_EXTRAS), ...between })).default([]),
  ...between,
});

export const simulatedResultsSchema = z.array(
  z.object({
    query: z.string(),
    /** The path of the own page, its extras, and its ranks with the day from which each was held. */
    own: z.object({
      path: z.string(),
      ranks: z.array(z.object({ from: isoDaySchema.optional(), rank: z.int() })).min(1),
      extras: z.array(z.object({ extra: z.enum(RESULT_EXTRAS), ...between })).default([]),
    }),
    rivals: z.array(rivalSchema),
    above: z.array(z.object({ kind: z.enum(ABOVE_KINDS), own: z.boolean(), ...between })).default([]),
    asked: z.array(z.string()).default([]),
    related: z.array(z.string()).default([]),
    bold: z.array(z.string()).default([]),
  }),
);
export type SimulatedResults = z.infer<typeof simulatedResultsSchema>;

/** What a simulated source knows of the world on the day on which it is asked. */
export type ResultsWorld = {
  readonly today: Day;
  readonly site: string;
  readonly searches: SimulatedResults;
  /** The title and description that the results show of a page of the site; null where it is not among them. */
  readonly shown: (address: string) => Promise<{ title: string; description: string | null } | null>;
};

type Dated = { from?: string | undefined; until?: string | undefined };

const holds = ({ from, until }: Dated, day: Day): boolean =>
  (from === undefined || parseIsoDay(from)! <= day) && (until === undefined || parseIsoDay(until)! > day);

function latest<T extends Dated>(list: readonly T[], day: Day): T {
  return list.filter((one) => holds(one, day)).at(-1) ?? list[0]!;
}

/** What a search of the made-up world shows on the day; the same world on the same day is answered alike. */
export function simulatedSource({ today, site, searches, shown }: ResultsWorld): ResultSource {
  return async ({ query }) => {
    const known = searches.find((one) => one.query === query);
    if (!known) throw new SourceRefused(`The simulated source knows no results for “${query}”.`);
    const { own, above, asked, related, bold } = known;
    const rivals = known.rivals.filter((rival) => holds(rival, today));
    const results = rivals.map((rival): NewResultPage['results'][number] => ({
      rank: 0,
      address: rival.address,
      title: latest(rival.titles, today).title,
      description: rival.description,
      kind: rival.kind ?? null,
      dateShown: rival.dateShown ?? null,
      extras: rival.extras.filter((one) => holds(one, today)).map(({ extra }) => extra),
    }));
    const address = site + own.path;
    const ownShown = await shown(address);
    if (ownShown) {
      const { rank } = latest(own.ranks, today);
      results.splice(rank - 1, 0, {
        ...{ rank, address, ...ownShown, kind: null, dateShown: null },
        extras: own.extras.filter((one) => holds(one, today)).map(({ extra }) => extra),
      });
    }
    return {
      results: results.map((result, i) => ({ ...result, rank: i + 1 })),
      above: above.filter((one) => holds(one, today)).map(({ kind, own: named }) => ({ kind, own: named })),
      ...{ asked, related, bold, ownQuestions: [] },
    };
  };
}

/** The page of a rival: its title, the questions people ask as headings, and a text that grows with how many there are. */
export function simulatedRival(
  query: string,
  asked: readonly string[],
  { titles, description }: SimulatedResults[number]['rivals'][number],
): SimulatedPage {
  const { title } = titles.at(-1)!;
  return {
    ...{ title, description, heading: title, types: ['Article'], links: [] },
    sections: asked.map((heading) => ({
      heading,
      text: `${description} Here is what people say of ${query}. `.repeat(3 + (title.length % 5)),
    })),
  };
}
