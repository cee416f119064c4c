import { and, desc, eq, isNull, sql } from 'drizzle-orm';
import type { Day } from '../../core/calendar/day';
import type { Shared } from '../../core/access/readOnlyLink';
import { actorNow, setAuditTarget } from '../acting';
import { today } from '../clock';
import type { Db } from '../database';
import { sharedLink } from '../schema';
import { timestamp, write } from '../write';
import { digestOf, newKey } from './secret';

export type SharedLink = typeof sharedLink.$inferSelect;

/** A link as people see it again: never what opens, nor its password. */
export type KnownLink = Omit<SharedLink, 'digest' | 'password'> & { readonly asksPassword: boolean };

type NewLink = {
  readonly siteId: number;
  readonly of: Shared;
  readonly thingId: number;
  readonly title: string;
  readonly lastDay: Day;
  /** The digest of a password; null where none is asked for. */
  readonly password: string | null;
};

/** Makes a link that shows one thing. Its key is given here once, and stored nowhere. */
export async function makeLink(db: Db, link: NewLink): Promise<{ id: number; key: string }> {
  const { key, digest } = newKey();
  return write(db, () => {
    const { id } = db
      .insert(sharedLink)
      .values({ ...link, digest, madeBy: actorNow(), createdAt: timestamp() })
      .returning({ id: sharedLink.id })
      .get();
    setAuditTarget('link', id, link.title);
    return { id, key };
  });
}

const known = ({
  id,
  siteId,
  of,
  thingId,
  title,
  madeBy,
  createdAt,
  lastDay,
  ...row
}: SharedLink): KnownLink => ({
  ...{ id, siteId, of, thingId, title, madeBy, createdAt, lastDay },
  ...{ lastOpenedAt: row.lastOpenedAt, opened: row.opened, withdrawnAt: row.withdrawnAt },
  asksPassword: row.password !== null,
});

/** Links of a site, or to one thing of it, the last made first. */
export function listLinks(
  db: Db,
  siteId: number,
  to?: { readonly of: Shared; readonly thingId: number },
): KnownLink[] {
  return db
    .select()
    .from(sharedLink)
    .where(
      and(
        eq(sharedLink.siteId, siteId),
        to && eq(sharedLink.of, to.of),
        to && eq(sharedLink.thingId, to.thingId),
      ),
    )
    .orderBy(desc(sharedLink.id))
    .all()
    .map(known);
}

/** Withdraws a link. Whether this call did. */
export async function withdrawLink(db: Db, siteId: number, id: number): Promise<boolean> {
  const { changes } = await write(db, () =>
    db
      .update(sharedLink)
      .set({ withdrawnAt: timestamp() })
      .where(and(eq(sharedLink.siteId, siteId), eq(sharedLink.id, id), isNull(sharedLink.withdrawnAt)))
      .run(),
  );
  return changes > 0;
}

/** The link that a key is; null where it is none, was withdrawn, or its day is past. */
export function findLink(db: Db, key: string): SharedLink | null {
  const row = db
    .select()
    .from(sharedLink)
    .where(and(eq(sharedLink.digest, digestOf(key)), isNull(sharedLink.withdrawnAt)))
    .get();
  return row && row.lastDay >= today() ? row : null;
}

/** Counts that a link was opened. Whoever opens it does not wait for it where another writes. */
export function rememberOpening(db: Db, id: number): void {
  try {
    db.update(sharedLink)
      .set({ opened: sql`${sharedLink.opened} + 1`, lastOpenedAt: timestamp() })
      .where(eq(sharedLink.id, id))
      .run();
  } catch {
    // It is shown all the same.
  }
}
