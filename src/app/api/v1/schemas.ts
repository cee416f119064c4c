import { z } from 'zod';
import { GRAIN_KEYS } from '@/core/facts/grains';
import { FIELDS } from '@/core/intake/columns';
import { addressRulesSchema } from '@/core/address/rules';
import { CHOICES } from '@/core/intake/counted';
import { LEDGER_FIELDS } from '@/core/ledgerSheet/columns';
import { intakeSettingsSchema, periodSchema } from '@/core/intake/settings';
import { EVENT_KINDS, type EventKind } from '@/core/model/event';
import { NARROW_DEVICES } from '@/core/reading/input';
import { METRICS } from '@/core/model/change';
import { STEPS } from '@/core/model/steps';
import { settlingDaysSchema, windowDaysSchema } from '@/core/model/site';

/* What the HTTP interface answers with. Days are YYYY-MM-DD, ratios plain numbers (0.031, not "3.1%"). */

const day = z.iso.date();
const span = z.object({ firstDay: day, lastDay: day });

export const siteJson = z.object({ id: z.int(), name: z.string(), address: z.string() }).meta({ id: 'Site' });

export const changeJson = z
  .object({
    id: z.int(),
    siteId: z.int(),
    title: z.string(),
    kind: z.string(),
    day,
    pages: z.array(z.string()),
    queries: z.array(z.string()),
    oldText: z.string().nullable(),
    newText: z.string().nullable(),
    parts: z
      .array(
        z.object({
          kind: z.string(),
          page: z.string().nullable(),
          oldText: z.string().nullable(),
          newText: z.string().nullable(),
        }),
      )
      .meta({ description: 'Further edits made at once, or the texts of each page.' }),
    tags: z.array(z.string()),
    settlingDays: z.int().nullable(),
    windowDays: z.int().nullable(),
    expectation: z
      .object({
        metric: z.enum(METRICS),
        direction: z.enum(['up', 'down']),
        amount: z.number().nullable(),
        reviewDay: day.nullable(),
      })
      .nullable(),
    person: z.string().nullable(),
    link: z.string().nullable(),
    note: z.string().nullable(),
    planned: z.boolean().meta({ description: 'Still to be made.' }),
    steps: z
      .partialRecord(z.enum(STEPS), day)
      .meta({ description: 'The days of the steps that were taken.' }),
    decision: z
      .object({ decision: z.enum(['keep', 'undo', 'rework']), reason: z.string().nullable() })
      .nullable(),
    followsId: z.int().nullable(),
  })
  .meta({ id: 'Change' });

/** A change just logged or edited, with what makes it doubtful. */
export const loggedChangeJson = changeJson
  .extend({
    cautions: z.array(z.object({ field: z.string(), message: z.string() })).meta({
      description: 'What to look at again, such as a page without search figures whose twin has them.',
    }),
  })
  .meta({ id: 'LoggedChange' });

export const eventJson = z
  .object({
    id: z.int(),
    siteId: z.int(),
    name: z.string(),
    kind: z.enum(Object.keys(EVENT_KINDS) as [EventKind, ...EventKind[]]),
    firstDay: day,
    lastDay: day,
    link: z.string().nullable(),
    note: z.string().nullable(),
    group: z.string().nullable(),
    hidden: z.boolean(),
  })
  .meta({ id: 'Event' });

export const snapshotJson = z
  .object({
    id: z.int(),
    page: z.string(),
    day,
    lastDay: day.meta({ description: 'The last day on which the page was found the same.' }),
    takenAt: z.iso.datetime(),
    status: z.int(),
    finalAddress: z.string().meta({ description: 'After redirects.' }),
    title: z.string().nullable(),
    description: z.string().nullable(),
    canonical: z.string().nullable(),
    robots: z.array(z.string()),
    headings: z.array(z.object({ level: z.int(), text: z.string() })),
    structuredData: z.array(z.object({ types: z.array(z.string()), problem: z.string().nullable() })),
    words: z.int(),
    text: z.string(),
    links: z.array(z.string()),
    images: z.int(),
    imagesWithoutAlt: z.array(z.string()),
    encoding: z.string(),
    misfits: z.int().meta({ description: 'Characters that make no sense in that encoding.' }),
  })
  .meta({ id: 'Snapshot' });

export const snapshotsJson = z
  .object({
    items: z.array(snapshotJson),
    next: z.int().nullable().meta({ description: 'The cursor of those before; null where there are none.' }),
  })
  .meta({ id: 'Snapshots' });

export const snapshotWishSchema = z.strictObject({
  page: z.string('Name the page.').trim().min(1, 'Name the page.').max(2048).meta({
    description: 'An address of the site; a path alone is taken as relative to it.',
  }),
});

export const snapshotComparisonJson = z
  .object({
    before: z.int(),
    after: z.int(),
    differences: z.array(
      z.object({
        aspect: z.string(),
        kind: z.string().meta({ description: 'The kind of change that makes such a difference.' }),
        before: z.string().nullable(),
        after: z.string().nullable(),
      }),
    ),
  })
  .meta({ id: 'SnapshotComparison' });

export const importJson = z
  .object({
    id: z.int(),
    state: z.enum(['queued', 'running', 'done', 'failed', 'undone']),
    about: z
      .enum(['figures', 'changes'])
      .meta({ description: 'Figures, or changes that were logged in a sheet.' }),
    grain: z.enum(GRAIN_KEYS).nullable().meta({ description: 'What rows of figures are about.' }),
    fileName: z.string(),
    dialect: z.string().nullable().meta({ description: 'How the file is written.' }),
    bytesTotal: z.int(),
    bytesRead: z.int().meta({ description: 'How far the file has been read, as it was sent.' }),
    rowsRead: z.int(),
    rowsStored: z.int(),
    rowsRefused: z.int(),
    rowsLeftOut: z.int().meta({ description: 'Of channels or kinds of search that do not count.' }),
    rowsRepeated: z.int().meta({
      description: 'Lines with the same key as a later one of the same file, which stands instead.',
    }),
    rowsReplaced: z.int().meta({ description: 'Keys that were there before.' }),
    rowsChanged: z.int().meta({ description: 'Of these, keys whose values are now others.' }),
    firstDay: day.nullable(),
    lastDay: day.nullable(),
    foldedAt: z.iso.datetime().nullable().meta({
      description: 'Since when it lies folded together with older files, and can no longer be undone.',
    }),
    problems: z.array(z.object({ line: z.int(), message: z.string() })),
  })
  .meta({ id: 'Import' });

const addressRulesJson = addressRulesSchema.meta({ id: 'AddressRules' });

/** An import looked at by itself. */
export const oneImportJson = importJson
  .extend({
    missedJoins: z.object({ sentence: z.string(), rules: addressRulesJson }).nullable().meta({
      description:
        'That most of its pages miss the other source by their spelling alone, and the rules of addresses that would join them.',
    }),
  })
  .meta({ id: 'OneImport' });

export const importsJson = z.object({ items: z.array(importJson) }).meta({ id: 'Imports' });

const comparison = z
  .object({
    before: z.number().nullable(),
    after: z.number().nullable(),
    difference: z.number().nullable(),
    ratio: z.number().nullable().meta({ description: 'after / before' }),
  })
  .meta({ id: 'Comparison' });

const metrics = z
  .object({
    clicks: comparison,
    impressions: comparison,
    ctr: comparison,
    position: z.object({
      before: z.number().nullable(),
      after: z.number().nullable(),
      placesGained: z.number().nullable().meta({ description: 'before - after: a gain is positive.' }),
    }),
  })
  .meta({ id: 'Metrics' });

const ratioEffect = z.object({ ratio: z.number(), low: z.number(), high: z.number() }).meta({
  id: 'RatioEffect',
  description: 'Net of the yardstick, as a ratio: 1.24 is 24% above what the untouched pages suggest.',
});

const net = z
  .object({
    clicks: ratioEffect.nullable(),
    impressions: ratioEffect.nullable(),
    ctr: ratioEffect.nullable(),
    position: z
      .object({ placesGained: z.number(), low: z.number(), high: z.number() })
      .nullable()
      .meta({ description: 'In places; a gain is positive although the number of the position falls.' }),
  })
  .meta({ id: 'Net', description: 'Net effects with their 90% intervals; null where a side is absent.' });

const mark = z.enum(['lifted', 'dropped', 'held', 'unclear']).meta({ id: 'Mark' });
const verdict = z.enum(['lifted', 'dropped', 'held', 'unclear', 'waiting']).meta({
  id: 'Verdict',
  description:
    'On the metric of the expectation, or clicks: the interval excludes no effect (lifted, dropped), lies inside ±10% (held), or neither (unclear); too soon (waiting).',
});
const metricName = z.enum(METRICS);

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
  .meta({ id: 'Swing' });

/** What a reading has in a list too. */
const readingGist = {
  metrics,
  judged: metricName.meta({ description: 'The metric the verdict is about.' }),
  verdict,
  net: net.nullable(),
  marks: z.object({
    clicks: mark.nullable(),
    impressions: mark.nullable(),
    ctr: mark.nullable(),
    position: mark.nullable(),
  }),
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
      page: z.string().nullable(),
    }),
    spans,
    ...readingGist,
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

export const problemJson = z
  .object({
    type: z.string(),
    title: z.string(),
    status: z.int(),
    detail: z.string(),
    errors: z.array(z.object({ field: z.string(), message: z.string() })).optional(),
  })
  .meta({ id: 'Problem' });

/** A JSON text, as fields of addresses and forms hold it. */
const jsonText = z.string().transform((text, context) => {
  try {
    return JSON.parse(text) as unknown;
  } catch {
    context.addIssue({ code: 'custom', message: 'This is not JSON.' });
    return z.NEVER;
  }
});

/** What is stated about a file that is sent, where its head alone does not settle it. */
export const importWishSchema = z
  .strictObject({
    fileName: z.string().max(200).optional(),
    dateOrder: intakeSettingsSchema.shape.dateOrder.meta({
      description: 'Where the dates leave the order of day and month open.',
    }),
    mapping: jsonText
      .pipe(z.partialRecord(z.enum(FIELDS), z.union([z.string().max(500), z.int().min(0).max(999)])))
      .optional()
      .meta({
        description:
          'Which column holds which field, as JSON: by its name, or its place counted from 0. {"date": "when"}',
      }),
    counted: jsonText
      .pipe(z.partialRecord(z.enum(CHOICES), z.array(z.string().max(500)).max(500)))
      .optional()
      .meta({
        description:
          'Which values of the channel or kind of search count, as JSON; the others’ rows are left out. {"channel": ["newsletter"]}; preset: those that say organic, and web.',
      }),
    firstDay: day.optional().meta({ description: 'First day of the period of rows without dates.' }),
    lastDay: day.optional(),
  })
  .transform(({ firstDay, lastDay, ...rest }, context) => {
    if (firstDay === undefined && lastDay === undefined) return { ...rest, period: undefined };
    const period = periodSchema.safeParse({ firstDay, lastDay });
    if (period.success) return { ...rest, period: period.data };
    for (const { path, message } of period.error.issues) {
      const missing = { firstDay, lastDay }[path[0] as 'firstDay'] === undefined;
      context.addIssue({
        code: 'custom',
        path,
        message: missing ? 'Name both days of the period.' : message,
      });
    }
    return z.NEVER;
  });

/** What is stated about a sheet of changes that is sent. */
export const ledgerWishSchema = z.strictObject({
  fileName: z.string().max(200).optional(),
  dateOrder: intakeSettingsSchema.shape.dateOrder.meta({
    description: 'Where the dates leave the order of day and month open.',
  }),
  mapping: jsonText
    .pipe(z.partialRecord(z.enum(LEDGER_FIELDS), z.union([z.string().max(500), z.int().min(0).max(999)])))
    .optional()
    .meta({
      description:
        'Which column holds which field, as JSON: by its name, or its place. {"title": "What we did"}',
    }),
  join: z.enum(['true', 'false']).optional().meta({
    description: 'Whether rows of one day and wording become one change on several pages.',
  }),
});

/** Spans asked for in the address of a reading; numbers written as text. */
export const spanWishSchema = z.strictObject({
  windowDays: z.coerce.number().pipe(windowDaysSchema).optional(),
  settlingDays: z.coerce.number().pipe(settlingDaysSchema).optional(),
});

/** What a reading is narrowed to in its address, besides its spans. */
export const readingWishSchema = spanWishSchema
  .extend({
    query: z
      .string()
      .trim()
      .min(1, 'The query is empty.')
      .max(500, 'At most 500 characters.')
      .optional()
      .meta({ description: 'The exact query, on the pages of the change.' }),
    device: z.enum(NARROW_DEVICES, `The device must be one of ${NARROW_DEVICES.join(', ')}.`).optional(),
    page: z.string().trim().min(1, 'The page is empty.').max(2048).optional().meta({
      description: 'One of the pages of the change: its address, or its path.',
    }),
  })
  .refine((wish) => wish.query === undefined || wish.device === undefined, {
    path: ['device'],
    message: 'A reading is narrowed to a query or to a device, not to both at once.',
  });

export const feedJson = z
  .object({
    id: z.int(),
    siteId: z.int(),
    name: z.string(),
    address: z.string(),
    hasToken: z.boolean().meta({ description: 'The token itself is never given out.' }),
    daily: z.boolean(),
    allowPrivate: z.boolean(),
    state: z.enum(['idle', 'asked', 'fetching']),
    pagesFetched: z.int(),
    lastTriedAt: z.iso.datetime().nullable(),
    lastFetchedAt: z.iso.datetime().nullable(),
    failure: z.string().nullable(),
  })
  .meta({ id: 'Feed' });

export const feedsJson = z.object({ items: z.array(feedJson) }).meta({ id: 'Feeds' });

export const unloggedJson = z
  .object({
    items: z.array(
      z.object({
        snapshotId: z.int(),
        page: z.string(),
        from: day.meta({ description: 'The last day on which the page was seen as it was before.' }),
        to: day.meta({ description: 'The day on which it was first seen as it is now.' }),
        differences: snapshotComparisonJson.shape.differences,
      }),
    ),
  })
  .meta({ id: 'Unlogged' });
