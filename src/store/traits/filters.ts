import { and, asc, eq } from 'drizzle-orm';
import { z } from 'zod';
import { LIST_SUBJECTS, type ListSubject } from '../../core/lists/columns';
import type { KeptFilter } from '../../core/lists/line';
import { lineText } from '../../core/model/fields';
import type { Db } from '../database';
import { InputError } from '../inputError';
import { keptFilter } from '../schema';
import { write } from '../write';

export const newFilterSchema = z.strictObject({
  subject: z.enum(LIST_SUBJECTS),
  name: lineText().min(1, 'The filter needs a name.').max(80, 'At most 80 characters.'),
  query: z
    .string()
    .max(2000)
    .regex(/^(?:\?[^#]*)?$/),
});

/** The filters that were kept for a list, by name. */
export function keptFilters(db: Db, siteId: number, subject: ListSubject): KeptFilter[] {
  const { id, name, query } = keptFilter;
  return db
    .select({ id, subject: keptFilter.subject, name, query })
    .from(keptFilter)
    .where(and(eq(keptFilter.siteId, siteId), eq(keptFilter.subject, subject)))
    .orderBy(asc(name))
    .all();
}

const MOST_FILTERS = 100;

/** Keeps a filter under a name; one of the same name is written over. */
export async function keepFilter(
  db: Db,
  siteId: number,
  filter: z.output<typeof newFilterSchema>,
): Promise<void> {
  await write(db, () => {
    if (keptFilters(db, siteId, filter.subject).length >= MOST_FILTERS)
      throw new InputError('name', `At most ${MOST_FILTERS} filters are kept; drop one first.`);
    const { siteId: site, subject, name } = keptFilter;
    db.insert(keptFilter)
      .values({ siteId, ...filter })
      .onConflictDoUpdate({ target: [site, subject, name], set: { query: filter.query } })
      .run();
  });
}

/** Keeps a filter no longer. */
export async function dropFilter(db: Db, siteId: number, id: number): Promise<boolean> {
  return write(db, () => {
    const own = and(eq(keptFilter.siteId, siteId), eq(keptFilter.id, id));
    return db.delete(keptFilter).where(own).run().changes > 0;
  });
}
