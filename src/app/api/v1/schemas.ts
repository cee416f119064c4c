import { parseJson } from '@/core/parseJson';
import { PLAIN_JSON } from '@/core/model/changeFields';
import { z } from 'zod';
import { GRAIN_KEYS } from '@/core/facts/grains';
import { FIELDS } from '@/core/intake/columns';
import { addressRulesSchema } from '@/core/model/addressRules';
import { CHOICES } from '@/core/intake/counted';
import { LEDGER_FIELDS } from '@/core/intake/ledgerColumns';
import { intakeSettingsSchema, periodSchema } from '@/core/intake/settings';
import { EVENT_KINDS, type EventKind } from '@/core/model/event';
import { METRICS } from '@/core/measures/registry';
import { STEPS } from '@/core/model/steps';

/* What the HTTP interface answers with. Days are YYYY-MM-DD, ratios plain numbers (0.031, not "3.1%"). */

export const day = z.iso.date();
export const span = z.object({ firstDay: day, lastDay: day });

export const siteJson = z.object({ id: z.int(), name: z.string(), address: z.string() }).meta({ id: 'Site' });

export const changeJson = z
  .object({
    id: z.int(),
    siteId: z.int(),
    ...PLAIN_JSON,
    day,
    pages: z.array(z.string()),
    queries: z.array(z.string()),
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
    expectation: z
      .object({
        metric: z.enum(METRICS),
        direction: z.enum(['up', 'down']),
        amount: z.number().nullable(),
        reviewDay: day.nullable(),
      })
      .nullable(),
    planned: z.boolean().meta({ description: 'Still to be made.' }),
    steps: z
      .partialRecord(z.enum(STEPS), day)
      .meta({ description: 'The days of the steps that were taken.' }),
    decision: z
      .object({ decision: z.enum(['keep', 'undo', 'rework']), reason: z.string().nullable() })
      .nullable(),
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
    return parseJson(text);
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
