import type { Day } from '../core/calendar/day';
import { FIELDS, type ColumnMapping } from '../core/intake/columns';
import { RowReader, UnsettledDates } from '../core/intake/rowReader';
import { statedIn, type IntakeSettings } from '../core/intake/settings';
import type { Site } from '../core/model/site';
import type { Db } from '../store/database';
import { addressReader } from './intake/addressReader';
import { FileRefused } from './intake/fileRefused';
import { planFor, rememberedFor, settleDateOrder } from './intake/settings';
import { asText, isText } from './intake/asText';
import { forEachRecord, readHead } from './intake/text';

/**
 * Rows after which the date order counts as settled; if later rows disagree, the import reads them
 * all.
 */
const FIRST_ROWS = 1000;

/** What a script states of a file; columns by their name or their place, counted from 0. */
export type NamedSettings = Omit<IntakeSettings, 'mapping'> & {
  readonly mapping?: Readonly<Record<string, string | number | null>> | undefined;
};

/**
 * Checks whether a file can be imported as it is, before it is queued, and returns what was
 * settled. The date column is read in full only if its first rows leave the order of day and month
 * open. Throws FileRefused, with what has to be stated if that would help.
 */
export async function checkFile(
  db: Db,
  site: Site,
  sent: string,
  takenOn: Day,
  wish: NamedSettings,
): Promise<IntakeSettings> {
  const settings = await check(db, site, sent, takenOn, wish, true);
  return settings!;
}

/**
 * Checks the beginning of a file only, which is fast: null if the file must be converted to text
 * first, or its whole date column read.
 */
export function checkBeginning(
  db: Db,
  site: Site,
  sent: string,
  takenOn: Day,
  wish: NamedSettings,
): Promise<IntakeSettings | null> {
  return check(db, site, sent, takenOn, wish, false);
}

async function check(
  db: Db,
  site: Site,
  sent: string,
  takenOn: Day,
  wish: NamedSettings,
  thorough: boolean,
): Promise<IntakeSettings | null> {
  if (!thorough && !(await isText(sent))) return null;
  const { file } = await asText(sent);
  const csv = await readHead(file, wish.headLine);
  const { mapping: names, ...rest } = wish;
  const settings: IntakeSettings = names ? { ...rest, mapping: byColumn(names, csv.head) } : rest;
  const remembered = rememberedFor(db, site.id, csv.head);
  const plan = planFor(csv, statedIn(settings), remembered, site, takenOn);
  if (plan.mapping.date == null || plan.dateOrder !== null) return settings;
  const reader = new RowReader({ ...plan, address: addressReader(site.address) });
  let rows = 0;
  const read = (cells: readonly string[]) => {
    rows++;
    reader.read(cells);
  };
  try {
    await forEachRecord(file, csv, read, undefined, () => rows >= FIRST_ROWS);
    return settings;
  } catch (error) {
    if (!(error instanceof UnsettledDates)) throw error;
    if (!thorough) return null;
    return { ...settings, dateOrder: await settleDateOrder(file, csv, plan.mapping.date, remembered) };
  }
}

function byColumn(
  names: NonNullable<NamedSettings['mapping']>,
  head: readonly string[],
): NonNullable<IntakeSettings['mapping']> {
  const mapping: ColumnMapping = {};
  const plain = (text: string) => text.trim().toLowerCase();
  for (const field of FIELDS) {
    const wanted = names[field];
    if (wanted == null) continue;
    const column =
      typeof wanted === 'number' ? wanted : head.findIndex((name) => plain(name) === plain(wanted));
    if (column < 0 || column >= head.length) {
      throw new FileRefused(
        `There is no column ${typeof wanted === 'number' ? wanted : `“${wanted}”`} for ${field}; the columns are ${head
          .slice(0, 12)
          .map((name) => `“${name.slice(0, 40)}”`)
          .join(', ')}.`,
        'mapping',
      );
    }
    mapping[field] = column;
  }
  return mapping;
}
