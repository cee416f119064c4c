import { markDeleted } from '../markDeleted';
import { and, desc, eq, isNull } from 'drizzle-orm';
import { asDay, type Day } from '../../core/calendar/day';
import type { SheetLine } from '../../core/lists/querySheet';
import { setAuditTarget } from '../acting';
import type { Db } from '../database';
import { sheet } from '../schema';
import { write } from '../write';

/** A kept sheet without its lines. */
export type KeptSheet = {
  readonly id: number;
  readonly siteId: number;
  readonly name: string;
  /** When it was made, and the days it is of. */
  readonly day: Day;
  readonly firstDay: Day;
  readonly lastDay: Day;
  readonly pageIds: readonly number[];
};

const columns = {
  ...{ id: sheet.id, siteId: sheet.siteId, name: sheet.name, day: sheet.day },
  ...{ firstDay: sheet.firstDay, lastDay: sheet.lastDay, pages: sheet.pages },
};

function asSheet({
  pages,
  day,
  firstDay,
  lastDay,
  ...row
}: {
  id: number;
  siteId: number;
  name: string;
  day: number;
  firstDay: number;
  lastDay: number;
  pages: string;
}): KeptSheet {
  return {
    ...row,
    day: asDay(day),
    firstDay: asDay(firstDay),
    lastDay: asDay(lastDay),
    pageIds: JSON.parse(pages) as number[],
  };
}

/** The kept sheets of a site, the newest first. */
export function keptSheets(db: Db, siteId: number): KeptSheet[] {
  return db
    .select(columns)
    .from(sheet)
    .where(and(eq(sheet.siteId, siteId), isNull(sheet.deletedAt)))
    .orderBy(desc(sheet.id))
    .all()
    .map(asSheet);
}

/** One kept sheet with its lines; null where there is none. */
export function findSheet(db: Db, id: number): { sheet: KeptSheet; lines: SheetLine[] } | null {
  const row = db
    .select({ ...columns, lines: sheet.lines })
    .from(sheet)
    .where(and(eq(sheet.id, id), isNull(sheet.deletedAt)))
    .get();
  if (!row) return null;
  const { lines, ...rest } = row;
  return { sheet: asSheet(rest), lines: JSON.parse(lines) as SheetLine[] };
}

/** Keeps a sheet; gives its number. */
export async function keepSheet(
  db: Db,
  { siteId, name, day, firstDay, lastDay, pageIds }: Omit<KeptSheet, 'id'>,
  lines: readonly SheetLine[],
): Promise<number> {
  const values = {
    ...{ siteId, name, day, firstDay, lastDay },
    ...{ pages: JSON.stringify(pageIds), lines: JSON.stringify(lines) },
  };
  return write(db, () => {
    const { id } = db.insert(sheet).values(values).returning({ id: sheet.id }).get();
    return setAuditTarget('sheet', id, name);
  });
}

/** Takes a sheet away, or puts it back. */
export async function setSheetDeleted(
  db: Db,
  siteId: number,
  id: number,
  deleted: boolean,
): Promise<boolean> {
  return write(db, () => markDeleted(db, sheet, id, deleted, siteId));
}
