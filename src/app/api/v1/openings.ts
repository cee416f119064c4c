import { z } from 'zod';
import { asDay, isoDay } from '@/core/calendar/day';
import { OPENING_KINDS } from '@/core/openings/kinds';
import type { TimedOpening } from '@/core/openings/named';
import type { ShiftSeen } from '@/core/shifts/seen';
import { day } from './schemas';

/* Openings and level shifts as the HTTP interface answers with them. */

export const openingJson = z
  .object({
    kind: z.enum(OPENING_KINDS),
    key: z.string(),
    page: z.string().nullable(),
    query: z.string().nullable(),
    figures: z
      .record(z.string(), z.union([z.number(), day]))
      .meta({ description: 'The figures behind it, by name; day, firstDay and lastDay are days.' }),
    estimate: z.object({
      clicksPerMonth: z.number().nullable(),
      low: z.number().nullable(),
      high: z.number().nullable().meta({ description: 'low to high hold the truth 80 times in a hundred.' }),
      conversionsPerMonth: z.number().nullable(),
      worthPerMonth: z.number().nullable(),
    }),
    sentence: z.string(),
    daysToShow: z
      .int()
      .nullable()
      .meta({ description: 'After how many days the page could show the effect.' }),
    busyUntil: day.nullable().meta({ description: 'A change on the page is still being read until then.' }),
    inRound: z.int().nullable().meta({ description: 'A round that runs and has the page in it.' }),
  })
  .meta({ id: 'Opening' });

export const openingsJson = z.object({
  items: z.array(openingJson),
  total: z.int(),
  next: z.string().nullable(),
});

export function openingToJson(opening: TimedOpening): z.infer<typeof openingJson> {
  const { kind, key, page, query, figures, gain, conversions, worth, sentence, daysToShow, busy } = opening;
  return {
    ...{
      kind,
      key,
      page: page?.address ?? null,
      query: query?.text ?? null,
      figures: figuresToJson(figures),
    },
    estimate: {
      ...{ clicksPerMonth: gain?.clicks ?? null, low: gain?.low ?? null, high: gain?.high ?? null },
      ...{ conversionsPerMonth: conversions, worthPerMonth: worth },
    },
    ...{ sentence, daysToShow, busyUntil: busy?.until == null ? null : isoDay(busy.until) },
    inRound: busy?.roundId ?? null,
  };
}

/** Days among the figures of an opening, which are numbers within the program. */
const DAY_FIGURES: readonly string[] = ['day', 'firstDay', 'lastDay'];

function figuresToJson(figures: TimedOpening['figures']): Record<string, number | string> {
  return Object.fromEntries(
    Object.entries(figures).map(([name, value]) => [
      name,
      DAY_FIGURES.includes(name) ? isoDay(asDay(value)) : value,
    ]),
  );
}

export const shiftsJson = z.object({
  items: z.array(
    z
      .object({
        day,
        firstDay: day,
        lastDay: day,
        ratio: z.number(),
        low: z.number(),
        high: z.number(),
        near: z.array(
          z.object({
            kind: z.enum(['change', 'event', 'difference', 'title', 'page', 'results']),
            day,
            text: z.string(),
            id: z.int().nullable(),
          }),
        ),
      })
      .meta({
        id: 'Shift',
        description: 'A level was multiplied by `ratio`, on a day from firstDay to lastDay.',
      }),
  ),
});

export function shiftToJson({ day: on, firstDay, lastDay, near, ratio, low, high }: ShiftSeen) {
  return {
    ...{ day: isoDay(on), firstDay: isoDay(firstDay), lastDay: isoDay(lastDay), ratio, low, high },
    near: near.map(({ kind, day: at, text, id }) => ({ kind, day: isoDay(at), text, id })),
  };
}
