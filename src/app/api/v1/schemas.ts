import { z } from 'zod';
import { FIELDS } from '@/core/intake/columns';
import { CHOICES } from '@/core/intake/counted';
import { LEDGER_FIELDS } from '@/core/intake/ledgerColumns';
import { intakeSettingsSchema, periodSchema } from '@/core/intake/settings';
import { parseJson } from '@/core/parseJson';

/* What requests to the HTTP interface hold, and how problems are answered. Days are YYYY-MM-DD. */

export const newSnapshotSchema = z.strictObject({
  page: z.string('Name the page.').trim().min(1, 'Name the page.').max(2048).meta({
    description: 'An address of the site; a path alone is taken as relative to it.',
  }),
});

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
export const importQuerySchema = z
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
    firstDay: z.iso.date().optional().meta({ description: 'First day of the period of rows without dates.' }),
    lastDay: z.iso.date().optional(),
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
export const ledgerQuerySchema = z.strictObject({
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
