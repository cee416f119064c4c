import { markDeleted } from './markDeleted';
import { and, asc, desc, eq, gt, isNotNull, isNull, lt, min } from 'drizzle-orm';
import { siteAddress } from '../core/address/address';
import { addressRulesSchema, DEFAULT_ADDRESS_RULES } from '../core/model/addressRules';
import {
  DEFAULT_PROVISIONAL_DAYS,
  DEFAULT_SETTLING_DAYS,
  DEFAULT_WINDOW_DAYS,
  type NewSite,
  type Site,
  type SiteSettings,
} from '../core/model/site';
import type { Day } from '../core/calendar/day';
import { setAuditTarget } from './acting';
import { today } from './clock';
import { prepared, type Db } from './database';
import { DELETED_KEPT_DAYS } from './keptDays';
import { InputError } from './inputError';
import { site } from './schema';
import { timestamp, write, type Guard } from './write';

const columns = {
  id: site.id,
  name: site.name,
  address: site.address,
  windowDays: site.windowDays,
  settlingDays: site.settlingDays,
  provisionalDays: site.provisionalDays,
  undoDays: site.undoDays,
  addressRules: site.addressRules,
  privateHosts: site.privateHosts,
  brandWords: site.brandWords,
  language: site.language,
  worthOfClick: site.worthOfClick,
  worthOfConversion: site.worthOfConversion,
  timeZone: site.timeZone,
  fallShare: site.fallShare,
  fallBeyond: site.fallBeyond,
};

/** One that still comes out of an archive is nobody's yet, and one that was deleted nobody's any more. */
const whole = and(eq(site.arriving, false), isNull(site.deletedAt));

/** All sites in the order in which they were added. */
export function listSites(db: Db): Site[] {
  return db.select(columns).from(site).where(whole).orderBy(asc(site.id)).all().map(asSite);
}

type SiteRow = Omit<Site, 'rules' | 'privateHosts' | 'brandWords'> & {
  addressRules: string | null;
  privateHosts: string;
  brandWords: string;
};

function asSite({ addressRules, privateHosts, brandWords, ...row }: SiteRow): Site {
  const rules =
    addressRules === null ? DEFAULT_ADDRESS_RULES : addressRulesSchema.parse(JSON.parse(addressRules));
  const lines = (text: string) => text.split('\n').filter(Boolean);
  return { ...row, rules, privateHosts: lines(privateHosts), brandWords: lines(brandWords) };
}

export function findSite(db: Db, id: number): Site | null {
  const row = db
    .select(columns)
    .from(site)
    .where(and(eq(site.id, id), whole))
    .get();
  return row ? asSite(row) : null;
}

/** Today by the time zone of a site; by that of the server where the site has none. */
export function siteToday(db: Db, id: number): Day {
  const zone = prepared<[number], string | null>(db, 'SELECT time_zone FROM site WHERE id = ?')
    .pluck()
    .get(id);
  return today(zone ?? null);
}

/** Adds a site. Throws AddressError for a bad address, InputError where the address is taken. */
export async function addSite(db: Db, input: NewSite): Promise<Site> {
  const address = siteAddress(input.address);
  return write(db, () => {
    const there = db.select({ deletedAt: site.deletedAt }).from(site).where(eq(site.address, address)).get();
    if (there) {
      throw new InputError(
        'address',
        there.deletedAt === null
          ? `There is a site at ${address} already.`
          : `The site at ${address} was deleted and can still be put back.`,
        409,
      );
    }
    const row = db
      .insert(site)
      .values({
        name: input.name,
        address,
        windowDays: DEFAULT_WINDOW_DAYS,
        settlingDays: DEFAULT_SETTLING_DAYS,
        provisionalDays: DEFAULT_PROVISIONAL_DAYS,
        timeZone: input.timeZone ?? null,
        createdAt: timestamp(),
      })
      .returning(columns)
      .get();
    setAuditTarget('site', row.id, row.name);
    return asSite(row);
  });
}

/** Stores those settings that are given. */
export async function saveSiteSettings(
  db: Db,
  id: number,
  { privateHosts, brandWords, ...edit }: Partial<SiteSettings>,
  guard: Guard = () => {},
): Promise<void> {
  const given = Object.fromEntries(Object.entries(edit).filter(([, value]) => value !== undefined));
  const values = {
    ...given,
    ...(privateHosts && { privateHosts: privateHosts.join('\n') }),
    ...(brandWords && { brandWords: brandWords.join('\n') }),
  };
  await write(db, () => {
    guard();
    if (Object.keys(values).length > 0) db.update(site).set(values).where(eq(site.id, id)).run();
  });
}

/** What goes with a site when it is deleted. */
export type SiteContents = Readonly<
  Record<'changes' | 'events' | 'rounds' | 'reports' | 'imports' | 'pages' | 'rows', number>
>;

/** What there is of a site, in numbers. */
export function siteContents(db: Db, id: number): SiteContents {
  const count = (table: string, rest = '') =>
    prepared<[number], number>(db, `SELECT count(*) FROM "${table}" WHERE site_id = ?${rest}`)
      .pluck()
      .get(id)!;
  const standing = ' AND deleted_at IS NULL';
  return {
    changes: count('change', standing),
    events: count('event', standing),
    rounds: count('round', standing),
    reports: count('report', standing),
    imports: count('import', " AND state IN ('done', 'undone')"),
    pages: count('page'),
    // What files brought, whatever of it was replaced since.
    rows: prepared<[number], number>(
      db,
      "SELECT coalesce(sum(rows_stored), 0) FROM import WHERE site_id = ? AND state IN ('done', 'undone')",
    )
      .pluck()
      .get(id)!,
  };
}

/** Deletes a site, or puts it back. Resolves to whether this call did. */
export async function setSiteDeleted(db: Db, id: number, deleted: boolean): Promise<boolean> {
  return write(db, () => markDeleted(db, site, id, deleted));
}

/** A site that was deleted and can be put back. */
export type DeletedSite = {
  readonly id: number;
  readonly name: string;
  readonly address: string;
  /** ISO 8601, UTC. */
  readonly deletedAt: string;
};

const since = (now: number) => new Date(now - DELETED_KEPT_DAYS * 86_400_000).toISOString();

/** Sites that can still be put back, the last deleted first. */
export function deletedSites(db: Db, now = Date.now()): DeletedSite[] {
  return db
    .select({ id: site.id, name: site.name, address: site.address, deletedAt: site.deletedAt })
    .from(site)
    .where(and(isNotNull(site.deletedAt), gt(site.deletedAt, since(now))))
    .orderBy(desc(site.deletedAt))
    .all()
    .map((row) => ({ ...row, deletedAt: row.deletedAt! }));
}

/** Sites that were deleted so long ago that they are to go. */
export function sitesToPurge(db: Db, now = Date.now()): number[] {
  return db
    .select({ id: site.id })
    .from(site)
    .where(and(isNotNull(site.deletedAt), lt(site.deletedAt, since(now))))
    .all()
    .map(({ id }) => id);
}

/** When the first site was added (ISO 8601, UTC), deleted ones too; null where there was none. */
export function firstSiteAddedAt(db: Db): string | null {
  return (
    db
      .select({ at: min(site.createdAt) })
      .from(site)
      .get()?.at ?? null
  );
}
