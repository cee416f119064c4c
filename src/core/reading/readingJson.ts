/* Readings as the API answers with them, alone and in a list. */

import { z } from 'zod';
import {
  estimatesJson,
  marksJson,
  markJson,
  metricsJson,
  movedInJson,
  netJson,
  verdictJson,
} from '../effect/effectJson';
import { compareTotals } from '../measures/comparison';
import { isInPlaces, MEASURES, METRICS, type Metric } from '../measures/registry';
import { NO_FIGURES } from '../measures/totals';
import { changeJson } from '../model/changeJson';
import { dayJson, jsonFrom, spanJson } from '../model/json';
import type { Reasons } from '../reasons/reasons';
import { ratioName, type Reading } from './readingModel';
import { plainSentence, readingSentence } from './readingSentence';

const control = z
  .object({
    kind: z.enum(['yardstick', 'chosen']),
    pages: z.int(),
    group: z.string().nullable().meta({ description: 'What the pages that move with these have in common.' }),
  })
  .meta({ id: 'Control', description: 'The pages that show what would have happened anyway.' });

const caution = z
  .object({
    code: z.string(),
    message: z.string(),
    days: spanJson.nullable(),
    changeId: z.int().nullable(),
    eventId: z.int().nullable(),
  })
  .meta({ id: 'Caution' });

const spans = z
  .object({
    before: spanJson,
    after: spanJson,
    windowDays: z.int(),
    settlingDays: z.int(),
    complete: z.boolean(),
    completeOn: dayJson.nullable().meta({
      description:
        'When a waiting reading is expected to be complete; null where only figures are wanting that exist already.',
    }),
    compared: z.object({ before: spanJson, after: spanJson.nullable() }).nullable().meta({
      description:
        'What `metrics` compares: the spans, or whole weeks of them while waiting; before the first week is over, the before span alone.',
    }),
  })
  .meta({ id: 'ReadingSpans' });

const ratio = z.number().nullable();
const controlRatios = Object.fromEntries(
  METRICS.map((metric) => [
    ratioName(metric),
    isInPlaces(metric) ? ratio.meta({ description: 'Below 1 the untouched pages rose in rank.' }) : ratio,
  ]),
) as { [M in Metric as `${M}Ratio`]: typeof ratio };

const yardstick = z
  .object({
    pages: z.int().meta({ description: 'Untouched pages that make up the yardstick.' }),
    groupPages: z.int().meta({ description: 'Of these, in the same part of the site.' }),
    groupWeight: z.number().meta({ description: 'How much that part counts, from 0 to 1.' }),
    ...controlRatios,
    groupLearned: z.boolean().meta({ description: 'Whether groups were found from how pages move.' }),
    group: z
      .int()
      .nullable()
      .meta({ description: 'The number of the group of the pages; null where they are of several.' }),
    tracking: z.number().nullable().meta({
      description:
        'Share of the variance of untouched pages that the yardstick takes away; below 0 it adds to it.',
    }),
  })
  .meta({ id: 'Yardstick' });

const swing = z
  .object({
    spells: z.int().meta({ description: 'Ordinary spells of these pages, one begun each week.' }),
    asLarge: z.int().meta({ description: 'How many of them moved at least as far untouched.' }),
  })
  .meta({ id: 'NullDistribution' });

const reasonsJson = jsonFrom(
  z.object({
    total: z.number(),
    reach: z.number(),
    rank: z.number(),
    appeal: z.number(),
    unseen: z.number(),
    queries: z.array(
      z.object({
        query: z.string(),
        seen: z.enum(['kept', 'new', 'lost']),
        reach: z.number(),
        rank: z.number(),
        appeal: z.number(),
        metrics: metricsJson,
      }),
    ),
    otherQueries: z
      .object({ queries: z.int(), reach: z.number(), rank: z.number(), appeal: z.number() })
      .meta({ description: 'The rest, where there are more than are listed.' }),
  }),
  (reasons: Reasons) => {
    const others = reasons.queries.slice(MOST_QUERIES);
    const sumOf = (share: 'reach' | 'rank' | 'appeal') =>
      others.reduce((total, query) => total + query[share], 0);
    return {
      ...reasons,
      queries: reasons.queries.slice(0, MOST_QUERIES).map((query) => ({
        ...query,
        metrics: compareTotals(query.before ?? NO_FIGURES, query.after ?? NO_FIGURES, query.expected),
      })),
      otherQueries: {
        queries: others.length,
        reach: sumOf('reach'),
        rank: sumOf('rank'),
        appeal: sumOf('appeal'),
      },
    };
  },
);

/** Queries that a reading lists by themselves; more are added up. */
const MOST_QUERIES = 500;

/** What a reading has in a list too. */
const gist = z.object({
  spans,
  metrics: metricsJson,
  judged: z.enum(MEASURES).meta({ description: 'The measure the verdict is told by.' }),
  verdict: verdictJson,
  movedIn: movedInJson
    .nullable()
    .meta({ description: 'What moved, where the verdict says that something did.' }),
  early: z
    .object({
      called: z.enum(['lifted', 'dropped']).nullable(),
      movedIn: movedInJson.nullable(),
      day: dayJson.nullable().meta({ description: 'The first day on which it was plain.' }),
      look: z.int().nullable().meta({ description: 'How many days after settling that was.' }),
    })
    .meta({ description: 'What was plain on a daily look while the reading waits.' }),
  estimates: estimatesJson.nullable(),
  control: control.nullable(),
  net: netJson.nullable(),
  marks: marksJson,
  yardstick: yardstick.nullable(),
  swing: swing.nullable(),
  pages: z
    .array(z.object({ page: z.string(), net: netJson, mark: markJson.nullable() }))
    .meta({ description: 'Each page by itself, where the change is on several.' }),
  sentence: z.string(),
  cautions: z.array(caution),
});

const NOTHING_EARLY = { called: null, movedIn: null, day: null, look: null };

function gistOf(reading: Reading) {
  const addresses = new Map(reading.change.pages.map((page) => [page.id, page.address]));
  return {
    ...reading,
    spans: { ...reading.spans, compared: reading.compared },
    early: reading.early ?? NOTHING_EARLY,
    control: reading.yardstick && {
      kind: 'yardstick' as const,
      pages: reading.yardstick.pages,
      group: reading.movesWith?.mostly ?? null,
    },
    pages: reading.pages.map((page) => ({ ...page, page: addresses.get(page.id) ?? '' })),
    sentence: plainSentence(readingSentence(reading)),
  };
}

/** A reading by itself. */
export const readingJson = jsonFrom(
  z
    .object({
      change: changeJson,
      narrowed: z.object({
        query: z.string().nullable(),
        device: z.string().nullable(),
        country: z.string().nullable(),
        page: z.string().nullable(),
      }),
      ...gist.shape,
      asOf: dayJson
        .nullable()
        .meta({ description: 'The day up to which figures were known; null: up to now.' }),
      saidAtCompletion: z
        .object({ sentence: z.string(), verdict: verdictJson, day: dayJson })
        .nullable()
        .meta({
          description: 'What was said when the days were over, where figures revised since say otherwise.',
        }),
      queries: z.array(z.object({ query: z.string(), metrics: metricsJson })),
      reasons: reasonsJson.nullable().meta({
        description:
          'Why clicks moved: reach, rank, appeal and unseen add up to total, the raw difference. Null without rows by query.',
      }),
      widerExposure: z
        .boolean()
        .meta({ description: 'CTR fell because the page is shown for more searches.' }),
      yearBefore: z
        .object({ clicksRatio: z.number(), netRatio: z.number().nullable() })
        .nullable()
        .meta({ description: 'The same days a year earlier, where the figures reach back.' }),
      carriers: z.array(z.object({ address: z.string(), ...spanJson.shape })).meta({
        description: 'Which address carried the figures from when to when, where the change moved the page.',
      }),
      wait: z
        .object({
          metric: z.enum(METRICS),
          showable: z.array(z.object({ windowDays: z.int(), ratio: z.number() })).meta({
            description:
              'Smallest rise these pages could show in spans of so many days, with 80% power; of position, before / after.',
          }),
          expectedRatio: z.number().nullable(),
          daysNeeded: z.int().nullable(),
        })
        .nullable(),
    })
    .meta({ id: 'Reading' }),
  (reading: Reading) => ({
    ...gistOf(reading),
    narrowed: {
      ...reading.narrowed,
      page: reading.change.pages.find(({ id }) => id === reading.narrowed.pageId)?.address ?? null,
    },
  }),
);

/** A reading as one of a list. */
export const readingItemJson = jsonFrom(
  z.object({ changeId: z.int(), day: dayJson, ...gist.shape }),
  (reading: Reading) => ({
    ...gistOf(reading),
    changeId: reading.change.id,
    day: reading.change.day,
  }),
);

export const readingsJson = z.object({ items: z.array(readingItemJson) }).meta({ id: 'Readings' });
