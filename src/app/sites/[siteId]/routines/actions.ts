'use server';

import { z } from 'zod';
import { foundOr404 } from '@/app/problem';
import { action } from '@/app/action';
import { mergedEdit } from '@/app/formResult';
import { parseIsoDay, type Day } from '@/core/calendar/day';
import { isoDaySchema, optionalText } from '@/core/model/fields';
import { newRoutineSchema } from '@/core/routines/routine';
import { keepRoutine, setRoutineDeleted, tickStep } from '@/store/routines/routines';

/**
 * Keeps a new routine (null), or an edited one, from what it said when that began; gives its
 * number.
 */
export const keep = action(
  { on: 'site', may: 'edit', auditAction: 'kept a routine' },
  [z.int().positive().nullable(), newRoutineSchema, newRoutineSchema.nullable()],
  async ({ db, site }, id, given, base) =>
    keepRoutine(db, site.id, id, given, (now) => mergedEdit(given, base ?? now, now)),
);

/** Takes a routine away, or puts it back. */
export const drop = action(
  { on: 'site', may: 'edit', auditAction: 'deleted a routine' },
  [z.int().positive(), z.boolean()],
  async ({ db, site }, id, deleted) => {
    return foundOr404(await setRoutineDeleted(db, site.id, id, deleted), 'routine');
  },
);

/** Ticks a step of a routine off for the day on which it was due, or takes that back. */
export const tick = action(
  { on: 'site', may: 'edit', auditAction: 'ticked a step of a routine' },
  [
    z.int().positive(),
    z.strictObject({ dueOn: isoDaySchema, step: z.int().min(0).max(40), person: optionalText(60) }),
    z.boolean(),
  ],
  async ({ db, site }, id, { dueOn, step, person }, done) => {
    await tickStep(db, site.id, id, { dueOn: parseIsoDay(dueOn) as Day, step, person }, done);
    return null;
  },
);
