import { z } from 'zod';
import { METRICS } from '../measures/registry';
import type { Change } from './change';
import { PLAIN_JSON } from './changeFields';
import { addressJson, dayJson, jsonFrom } from './json';
import { isMade, STEPS } from './steps';

const fields = z
  .object({
    id: z.int(),
    siteId: z.int(),
    ...PLAIN_JSON,
    day: dayJson,
    pages: z.array(addressJson),
    queries: z.array(z.string()),
    parts: z
      .array(
        z.object({
          kind: z.string(),
          page: addressJson.nullable(),
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
        reviewDay: dayJson.nullable(),
      })
      .nullable(),
    planned: z.boolean().meta({ description: 'Still to be made.' }),
    steps: z
      .partialRecord(z.enum(STEPS), dayJson)
      .meta({ description: 'The days of the steps that were taken.' }),
    decision: z
      .object({ decision: z.enum(['keep', 'undo', 'rework']), reason: z.string().nullable() })
      .nullable(),
  })
  .meta({ id: 'Change' });

const withPlanned = (change: Change) => ({ ...change, planned: !isMade(change) });

/** A change as the API answers with it. */
export const changeJson = jsonFrom(fields, withPlanned);

/** Something to look at again in a change that was just saved: the field it is about, and a sentence. */
export type SavedCaution = { readonly field: string; readonly message: string };

/** A change just logged or edited, with what makes it doubtful. */
export const loggedChangeJson = jsonFrom(
  fields
    .extend({
      cautions: z.array(z.object({ field: z.string(), message: z.string() })).meta({
        description: 'What to look at again, such as a page without search figures whose twin has them.',
      }),
    })
    .meta({ id: 'LoggedChange' }),
  ({ change, cautions }: { readonly change: Change; readonly cautions: readonly SavedCaution[] }) => ({
    ...withPlanned(change),
    cautions,
  }),
);
