import { pageKeyMaker } from '../../core/address/rules';
import { addressRulesSchema, type AddressRules } from '../../core/model/addressRules';
import type { Site } from '../../core/model/site';
import { settleChangePages } from '../ledger/changePages';
import { prepared, type Db } from '../database';
import { piecesOfPages } from '../figures/derived';
import { settleNamedPages, settlePages } from './pageKeys';
import { deriveSeries } from '../figures/series';
import { findSite } from '../sites';
import { timestamp, write } from '../write';

/*
 * Facts are kept by written address, so that other rules only give addresses other pages; nothing is lost by it, and the
 * rules before can be put back.
 */

/** Addresses that are one page. */
export type Joined = { readonly page: string; readonly addresses: readonly string[] };

/** What rules would make of the addresses of a site, against the rules that hold. */
export type RulesPreview = {
  readonly pagesNow: number;
  readonly pagesThen: number;
  /** Pages that would come of several that are apart now, those of most addresses first. */
  readonly joined: readonly Joined[];
  /** Pages that are one now and would fall apart: each with what it would fall into. */
  readonly parted: readonly Joined[];
};

/** Examples of each kind that a preview shows. */
const JOINS_SHOWN = 50;

/** A preview with as many examples as are shown. */
export function shortPreview({ joined, parted, ...counts }: RulesPreview): RulesPreview {
  return { ...counts, joined: joined.slice(0, JOINS_SHOWN), parted: parted.slice(0, JOINS_SHOWN) };
}

type AddressRow = { text: string; joinedTo: string | null };

function writtenAddresses(db: Db, siteId: number): AddressRow[] {
  return prepared<[number], AddressRow>(
    db,
    "SELECT text, joined_to AS joinedTo FROM address WHERE site_id = ? AND page_id IS NOT NULL AND text <> ''",
  ).all(siteId);
}

/** Shows which addresses some rules would join or part, without changing anything. */
export function previewRules(db: Db, site: Site, rules: AddressRules): RulesPreview {
  const [now, then] = [pageKeyMaker(site.address, site.rules), pageKeyMaker(site.address, rules)];
  const fromNow = new Map<string, Set<string>>();
  const fromThen = new Map<string, Set<string>>();
  for (const { text, joinedTo } of writtenAddresses(db, site.id)) {
    const [a, b] = [now(joinedTo ?? text), then(joinedTo ?? text)];
    add(fromNow, a, b);
    add(fromThen, b, a);
  }
  const several = (pages: ReadonlyMap<string, ReadonlySet<string>>): Joined[] =>
    [...pages]
      .filter(([, others]) => others.size > 1)
      .map(([page, others]) => ({ page, addresses: [...others].sort() }))
      .sort((a, b) => b.addresses.length - a.addresses.length || (a.page < b.page ? -1 : 1));
  return {
    pagesNow: fromNow.size,
    pagesThen: fromThen.size,
    joined: several(fromThen),
    parted: several(fromNow),
  };
}

function add(map: Map<string, Set<string>>, key: string, value: string): void {
  const known = map.get(key);
  if (known) known.add(value);
  else map.set(key, new Set([value]));
}

/** Gives all addresses of a site their pages by other rules, in one transaction, and keeps the rules before. */
export async function saveRules(db: Db, site: Site, rules: AddressRules): Promise<void> {
  await write(db, () => setRules(db, site.id, rules));
}

/** Must run in a transaction. */
function setRules(db: Db, siteId: number, rules: AddressRules): void {
  prepared(db, 'UPDATE site SET address_rules_before = ?, address_rules = ? WHERE id = ?').run(
    JSON.stringify(findSite(db, siteId)!.rules),
    JSON.stringify(rules),
    siteId,
  );
  rekey(db, siteId);
}

/** The rules before the last edit; null where there was none. */
export function rulesBefore(db: Db, siteId: number): AddressRules | null {
  const text = prepared<[number], string | null>(db, 'SELECT address_rules_before FROM site WHERE id = ?')
    .pluck()
    .get(siteId);
  return text ? addressRulesSchema.parse(JSON.parse(text)) : null;
}

/** Puts the rules before the last edit back. Resolves to whether there were any. */
export async function undoRules(db: Db, site: Site): Promise<boolean> {
  return write(db, () => {
    const before = rulesBefore(db, site.id);
    if (before) setRules(db, site.id, before);
    return before !== null;
  });
}

/** Joins an address to a page by hand, whatever the rules say; null takes that back. */
export async function joinAddress(db: Db, site: Site, addressId: number, page: string | null): Promise<void> {
  await write(db, () => {
    prepared(db, 'UPDATE address SET joined_to = ? WHERE id = ? AND site_id = ?').run(
      page,
      addressId,
      site.id,
    );
    rekey(db, site.id);
  });
}

function rekey(db: Db, siteId: number): void {
  const site = findSite(db, siteId)!;
  settleChangePages(db, site);
  settleNamedPages(db, site);
  settlePages(db, site);
  db.$client.exec(`DELETE FROM page_series WHERE page_id IN (SELECT id FROM page WHERE site_id = ${siteId})`);
  deriveSeries(db, piecesOfPages(db, 'a.site_id = ?', siteId));
  prepared(db, 'UPDATE site SET keyed_at = ? WHERE id = ?').run(timestamp(), siteId);
}
