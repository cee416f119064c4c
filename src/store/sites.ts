import { and, asc, eq } from 'drizzle-orm';
import { siteAddress } from '../core/address/address';
import { addressRulesSchema, DEFAULT_ADDRESS_RULES } from '../core/address/rules';
import {
  DEFAULT_PROVISIONAL_DAYS,
  DEFAULT_SETTLING_DAYS,
  DEFAULT_WINDOW_DAYS,
  type NewSite,
  type Site,
  type SiteSettings,
} from '../core/model/site';
import type { Db } from './database';
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
};

/** One that still comes out of an archive is nobody's yet. */
const whole = eq(site.arriving, false);

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

/** Adds a site. Throws AddressError for a bad address, InputError where the address is taken. */
export async function addSite(db: Db, input: NewSite): Promise<Site> {
  const address = siteAddress(input.address);
  return write(db, () => {
    if (db.select({ id: site.id }).from(site).where(eq(site.address, address)).get()) {
      throw new InputError('address', `There is a site at ${address} already.`, 409);
    }
    const row = db
      .insert(site)
      .values({
        name: input.name,
        address,
        windowDays: DEFAULT_WINDOW_DAYS,
        settlingDays: DEFAULT_SETTLING_DAYS,
        provisionalDays: DEFAULT_PROVISIONAL_DAYS,
        createdAt: timestamp(),
      })
      .returning(columns)
      .get();
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
