'use server';

import { z } from 'zod';
import { action } from '@/app/action';
import { lineText } from '@/core/model/fields';
import { dismissOpening, takeUpOpening } from '@/store/traits/passed';

const keySchema = z.string().min(1).max(5000);

/** Says of an opening that it is not worth it, and why. */
export const pass = action(
  { on: 'site', may: 'edit', auditAction: 'passed an opening over' },
  [
    z.strictObject({
      key: keySchema,
      reason: lineText().min(1, 'Say why, so that it can be understood later.').max(300),
      clicksAMonth: z.number().min(0),
    }),
  ],
  async ({ db, site }, { key, ...passed }) => {
    await dismissOpening(db, site.id, key, passed);
    return null;
  },
);

/** Offers an opening again. */
export const takeUp = action(
  { on: 'site', may: 'edit', auditAction: 'took an opening up again' },
  [keySchema],
  async ({ db, site }, key) => {
    await takeUpOpening(db, site.id, key);
    return null;
  },
);
