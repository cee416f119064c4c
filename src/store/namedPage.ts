import { sql } from 'drizzle-orm';
import { alias } from 'drizzle-orm/sqlite-core';
import { page } from './schema';

/** A page as something written down names it, which may have become part of another since (see the schema). */
export const named = alias(page, 'named');

/** The page that the named one is now. */
export const nowPage = sql<number>`coalesce(${named.intoId}, ${named.id})`;
