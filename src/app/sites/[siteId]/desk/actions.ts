'use server';

import { z } from 'zod';
import { action } from '@/app/action';
import { parseIsoDay } from '@/core/calendar/day';
import { isoDaySchema } from '@/core/model/fields';
import { putOff } from '@/store/ledger/putOff';

/** Puts something on the desk off to a day; null brings it back. */
export const putOffTo = action(
  { on: 'site', may: 'edit', auditAction: 'put something off' },
  [z.string().min(1).max(100), isoDaySchema.nullable()],
  async ({ db, site }, key, until) => {
    await putOff(db, site.id, key, until === null ? null : parseIsoDay(until));
    return null;
  },
);
