import { z } from 'zod';
import { isoDaySchema } from '@/core/model/fields';
import {
  byMeasure,
  byMetric,
  descriptionOf,
  isInPlaces,
  MEASURES,
  METRICS,
  VERDICT_MEASURES,
} from '@/core/measures/registry';
import { settlingDaysSchema, windowDaysSchema } from '@/core/model/site';
import { NARROW_DEVICES } from '@/core/reading/narrowing';
import { changeJson, day, span } from './schemas';

/* What the interface tells of readings and comparisons. */

const comparison = z
  .object({
    before: z.number().nullable(),
    after: z.number().nullable(),
    difference: z.number().nullable(),
    ratio: z.number().nullable().meta({ description: 'after / before' }),
  })
  .meta({ id: 'Comparison' });

const places = z.object({
  before: z.number().nullable(),
  after: z.number().nullable(),
  placesGained: z.number().nullable().meta({ description: 'before - after: a gain is positive.' }),
});

/** A schema with a description, if there is one. */
const described = <S extends z.ZodType>(schema: S, description: string | undefined) =>
  description === undefined ? schema : schema.meta({ description });

const metrics = z
  .object(
    byMetric((metric) => described(isInPlaces(metric) ? places : comparison, descriptionOf(metric).about)),
  )
  .meta({ id: 'Metrics' });

const ratioEffect = z.object({ ratio: z.number(), low: z.number(), high: z.number() }).meta({
  id: 'RatioEffect',
  description: 'Net of the yardstick, as a ratio: 1.24 is 24% above what the untouched pages suggest.',
});

const placesEffect = z
  .object({ placesGained: z.number(), low: z.number(), high: z.number() })
  .meta({ id: 'PlacesEffect' });

const net = z
  .object(
    byMeasure((measure) => {
      const effect = isInPlaces(measure) ? placesEffect : ratioEffect;
      return described(effect.nullable(), descriptionOf(measure).netEffect);
    }),
  )
  .meta({ id: 'Net', description: 'Net effects with their 90% intervals; null where a side is absent.' });

const mark = z.enum(['lifted', 'dropped', 'held', 'unclear']).meta({ id: 'Mark' });
const verdict = z.enum(['lifted', 'dropped', 'held', 'unclear', 'waiting']).meta({
  id: 'Verdict',
  description:
    'What plainly moved, whichever metric was expected: lifted or dropped (see movedIn), no change (held: inside ±10%), inconclusive (unclear), or collecting data (waiting).',
});
const metricName = z.enum(METRICS);
const movedIn = z.enum(VERDICT_MEASURES);
const estimate = z
  .object({
    log: z.number(),
    standardError: z.number(),
    critical: z.number().meta({ description: 'Half the width of the 90% interval in standard errors.' }),
  })
  .meta({
    id: 'Estimate',
    description: 'A net effect on the log scale; of position of the ratio of positions.',
  });
const estimates = z.object(byMetric(() => estimate.nullable()));
const metricMarks = z.object(byMetric(() => mark.nullable()));
const marks = z.object(
  byMeasure((measure) =>
    described(
      mark.nullable(),
      METRICS.some((metric) => metric === measure) ? undefined : descriptionOf(measure).about,
    ),
  ),
);
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
    days: span.nullable(),
    changeId: z.int().nullable(),
    eventId: z.int().nullable(),
  })
  .meta({ id: 'Caution' });

const spans = z
  .object({
    before: span,
    after: span,
    windowDays: z.int(),
    settlingDays: z.int(),
    complete: z.boolean(),
    completeOn: day.nullable().meta({
      description:
        'When a waiting reading is expected to be complete; null where only figures are wanting that exist already.',
    }),
    compared: z.object({ before: span, after: span.nullable() }).nullable().meta({
      description:
        'What `metrics` compares: the spans, or whole weeks of them while waiting; before the first week is over, the before span alone.',
    }),
  })
  .meta({ id: 'ReadingSpans' });

const yardstick = z
  .object({
    pages: z.int().meta({ description: 'Untouched pages that make up the yardstick.' }),
    groupPages: z.int().meta({ description: 'Of these, in the same part of the site.' }),
    groupWeight: z.number().meta({ description: 'How much that part counts, from 0 to 1.' }),
    clicksRatio: z.number().nullable(),
    impressionsRatio: z.number().nullable(),
    ctrRatio: z.number().nullable(),
    positionRatio: z.number().nullable().meta({ description: 'Below 1 the untouched pages rose in rank.' }),
    appealRatio: z.number().nullable(),
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

/** What a reading has in a list too. */
const readingGist = {
  metrics,
  judged: z.enum(MEASURES).meta({ description: 'The measure the verdict is told by.' }),
  verdict,
  movedIn: movedIn.nullable().meta({ description: 'What moved, where the verdict says that something did.' }),
  early: z
    .object({
      called: z.enum(['lifted', 'dropped']).nullable(),
      movedIn: movedIn.nullable(),
      day: day.nullable().meta({ description: 'The first day on which it was plain.' }),
      look: z.int().nullable().meta({ description: 'How many days after settling that was.' }),
    })
    .meta({ description: 'What was plain on a daily look while the reading waits.' }),
  estimates: estimates.nullable(),
  control: control.nullable(),
  net: net.nullable(),
  marks,
  yardstick: yardstick.nullable(),
  swing: swing.nullable(),
  pages: z
    .array(z.object({ page: z.string(), net, mark: mark.nullable() }))
    .meta({ description: 'Each page by itself, where the change is on several.' }),
  sentence: z.string(),
  cautions: z.array(caution),
};

export const readingJson = z
  .object({
    change: changeJson,
    narrowed: z.object({
      query: z.string().nullable(),
      device: z.string().nullable(),
      country: z.string().nullable(),
      page: z.string().nullable(),
    }),
    spans,
    ...readingGist,
    asOf: day.nullable().meta({ description: 'The day up to which figures were known; null: up to now.' }),
    saidAtCompletion: z.object({ sentence: z.string(), verdict, day }).nullable().meta({
      description: 'What was said when the days were over, where figures revised since say otherwise.',
    }),
    queries: z.array(z.object({ query: z.string(), metrics })),
    reasons: z
      .object({
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
            metrics,
          }),
        ),
        otherQueries: z
          .object({ queries: z.int(), reach: z.number(), rank: z.number(), appeal: z.number() })
          .meta({ description: 'The rest, where there are more than are listed.' }),
      })
      .nullable()
      .meta({
        description:
          'Why clicks moved: reach, rank, appeal and unseen add up to total, the raw difference. Null without rows by query.',
      }),
    widerExposure: z.boolean().meta({ description: 'CTR fell because the page is shown for more searches.' }),
    yearBefore: z
      .object({ clicksRatio: z.number(), netRatio: z.number().nullable() })
      .nullable()
      .meta({ description: 'The same days a year earlier, where the figures reach back.' }),
    carriers: z.array(z.object({ address: z.string(), firstDay: day, lastDay: day })).meta({
      description: 'Which address carried the figures from when to when, where the change moved the page.',
    }),
    wait: z
      .object({
        metric: metricName,
        showable: z.array(z.object({ windowDays: z.int(), ratio: z.number() })).meta({
          description:
            'Smallest rise these pages could show in spans of so many days, with 80% power; of position, before / after.',
        }),
        expectedRatio: z.number().nullable(),
        daysNeeded: z.int().nullable(),
      })
      .nullable(),
  })
  .meta({ id: 'Reading' });

export const readingsJson = z
  .object({ items: z.array(z.object({ changeId: z.int(), day, spans, ...readingGist })) })
  .meta({ id: 'Readings' });

/** Spans asked for in the address of a reading; numbers written as text. */
export const spanWishSchema = z.strictObject({
  windowDays: z.coerce.number().pipe(windowDaysSchema).optional(),
  settlingDays: z.coerce.number().pipe(settlingDaysSchema).optional(),
});

/** What a reading is narrowed to in its address, besides its spans. */
export const readingWishSchema = spanWishSchema.extend({
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
export const comparisonWishSchema = z.strictObject({
  pages: z.string().trim().min(1, 'No page is named.').max(20_000).optional().meta({
    description: 'Addresses or paths of pages, separated by commas; absent: the whole site.',
  }),
  query: z.string().trim().min(1, 'The query is empty.').max(500, 'At most 500 characters.').optional(),
  device: z.enum(NARROW_DEVICES, `The device must be one of ${NARROW_DEVICES.join(', ')}.`).optional(),
  before: writtenSpan,
  after: writtenSpan,
  asOf: isoDaySchema.optional(),
});

export const siteComparisonJson = z
  .object({
    subject: z.object({
      pages: z.array(z.string()).nullable().meta({ description: 'Null: the whole site.' }),
      query: z.string().nullable(),
      device: z.string().nullable(),
    }),
    before: span,
    after: span,
    asOf: day.nullable(),
    complete: z.boolean().meta({ description: 'Whether final figures reach over both spans.' }),
    metrics,
    net: net.nullable(),
    marks: metricMarks,
    movedIn: movedIn.nullable(),
    estimates: estimates.nullable(),
    control: z
      .object({ kind: z.enum(['yardstick', 'own-past']), pages: z.int() })
      .nullable()
      .meta({ description: 'The whole site is held against its own past.' }),
  })
  .meta({ id: 'SiteComparison' });

export const groupsJson = z
  .object({
    learned: z
      .boolean()
      .meta({ description: 'Learned from how pages move; else as stated, or by their paths.' }),
    items: z.array(
      z.object({
        number: z.int().meta({ description: '0: pages that move with too few others.' }),
        name: z.string(),
        named: z.boolean(),
        pages: z.array(z.string()),
        mostly: z
          .string()
          .nullable()
          .meta({ description: 'The part of the site that more than half are in.' }),
        words: z.array(z.string()),
      }),
    ),
  })
  .meta({ id: 'MovingGroups' });
