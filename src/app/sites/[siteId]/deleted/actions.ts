'use server';

import { z } from 'zod';
import { action } from '@/app/action';
import { Problem } from '@/app/problem';
import { DELETED_KINDS, putBackDeleted } from '@/store/deleted';

/** Puts back what was deleted. */
export const restoreDeleted = action(
  { on: 'site', may: 'edit', auditAction: 'put something back' },
  [z.enum(DELETED_KINDS), z.int().positive()],
  async ({ db, site }, kind, id) => {
    if (!(await putBackDeleted(db, site.id, kind, id)))
      throw new Problem(404, 'That is not among what was deleted.');
    return null;
  },
);
