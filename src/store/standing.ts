import { sql, type SQL } from 'drizzle-orm';
import type { SQLiteColumn } from 'drizzle-orm/sqlite-core';

/** The condition that a column names a site which is not deleted: nothing is done by itself for one that is. */
export const standingSite = (siteId: SQLiteColumn): SQL =>
  sql`${siteId} IN (SELECT id FROM site WHERE deleted_at IS NULL)`;
