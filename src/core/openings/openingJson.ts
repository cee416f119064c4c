import { z } from 'zod';
import { dayJson, jsonFrom, addressJson, toJson } from '../model/json';
import { asDay } from '../calendar/day';
import { OPENING_KINDS } from './kinds';
import type { TimedOpening } from './named';

/** Figures of an opening that are days, which are numbers within the program. */
const DAY_FIGURES: readonly string[] = ['day', 'firstDay', 'lastDay'];

const figures = jsonFrom(
  z
    .record(z.string(), z.union([z.number(), z.iso.date()]))
    .meta({ description: 'The figures behind it, by name; day, firstDay and lastDay are days.' }),
  (all: TimedOpening['figures']) =>
    Object.fromEntries(
      Object.entries(all).map(([name, value]) => [
        name,
        DAY_FIGURES.includes(name) ? toJson(dayJson, asDay(value)) : value,
      ]),
    ),
);

/** An opening as the API answers with it. */
export const openingJson = jsonFrom(
  z
    .object({
      kind: z.enum(OPENING_KINDS),
      key: z.string(),
      page: addressJson.nullable(),
      query: z.string().nullable(),
      figures,
      estimate: z.object({
        clicksPerMonth: z.number().nullable(),
        low: z.number().nullable(),
        high: z
          .number()
          .nullable()
          .meta({ description: 'low to high hold the truth 80 times in a hundred.' }),
        conversionsPerMonth: z.number().nullable(),
        worthPerMonth: z.number().nullable(),
      }),
      sentence: z.string(),
      daysToShow: z
        .int()
        .nullable()
        .meta({ description: 'After how many days the page could show the effect.' }),
      busyUntil: dayJson
        .nullable()
        .meta({ description: 'A change on the page is still being read until then.' }),
      inRound: z.int().nullable().meta({ description: 'A round that runs and has the page in it.' }),
    })
    .meta({ id: 'Opening' }),
  (opening: TimedOpening) => ({
    ...opening,
    query: opening.query && opening.query.text,
    estimate: {
      clicksPerMonth: opening.gain?.clicks ?? null,
      low: opening.gain?.low ?? null,
      high: opening.gain?.high ?? null,
      conversionsPerMonth: opening.conversions,
      worthPerMonth: opening.worth,
    },
    busyUntil: opening.busy?.until ?? null,
    inRound: opening.busy?.roundId ?? null,
  }),
);

export const openingsJson = z.object({
  items: z.array(openingJson),
  total: z.int(),
  next: z.string().nullable(),
});
