import { distance } from 'fastest-levenshtein';
import { GRAINS, type Grain } from '../../core/facts/grains';
import type { Site } from '../../core/model/site';
import { prepared, type Db } from '../database';

/** An address of one source that the other does not have, and what it may be meant for. */
export type Unmatched = {
  readonly addressId: number;
  readonly address: string;
  readonly page: string;
  readonly rows: number;
  /** The page of the other source whose address is nearest; null where none is near. */
  readonly nearest: string | null;
};

/** How the addresses of two sources meet. */
export type JoinsView = {
  readonly matched: number;
  /** Pages only in the first source, and only in the second. */
  readonly left: readonly Unmatched[];
  readonly right: readonly Unmatched[];
  /** Addresses that were joined by hand. */
  readonly byHand: readonly { readonly addressId: number; readonly address: string; readonly page: string }[];
};

/** Sources whose addresses are joined: search figures and those of an analytics program, attributes of pages. */
export const SOURCES = {
  search: {
    name: 'search figures',
    grains: ['page_day', 'page_query_day', 'page_period', 'page_query_period'],
  },
  analytics: { name: 'landing-page figures', grains: ['analytics_day'] },
} as const satisfies Record<string, { name: string; grains: readonly Grain[] }>;
export type Source = keyof typeof SOURCES;

/** The source that rows of a grain come from; null for what belongs to neither. */
export function sourceOf(grain: Grain): Source | null {
  const sources = Object.keys(SOURCES) as Source[];
  return sources.find((source) => (SOURCES[source].grains as readonly Grain[]).includes(grain)) ?? null;
}

/** The addresses of all pages that a source has figures of. */
export function pagesOfSource(db: Db, siteId: number, source: Source): Set<string> {
  return new Set(addressesOf(db, siteId, source).map(({ page }) => page));
}

/** The addresses of the pages that an import brought figures of. */
export function pagesOfImport(db: Db, importId: number): string[] {
  return prepared<[number], string>(
    db,
    `SELECT DISTINCT p.address FROM figures f JOIN address a ON a.id = f.address_id JOIN page p ON p.id = a.page_id
     WHERE f.import_id = ?`,
  )
    .pluck()
    .all(importId);
}

type AddressRow = { addressId: number; address: string; page: string; rows: number };

function addressesOf(db: Db, siteId: number, source: Source): AddressRow[] {
  const codes = SOURCES[source].grains.map((grain) => GRAINS[grain].code).join(', ');
  return prepared<[number], AddressRow>(
    db,
    `SELECT a.id AS addressId, a.text AS address, p.address AS page, sum(f.rows) AS rows
     FROM address a JOIN page p ON p.id = a.page_id JOIN figures f ON f.address_id = a.id
     JOIN import i ON i.id = f.import_id
     WHERE a.site_id = ? AND i.state = 'done' AND f.grain IN (${codes}) GROUP BY a.id`,
  ).all(siteId);
}

/** Pages looked through for the nearest one to each unmatched address. */
const MOST_CANDIDATES = 5000;

/** How the pages of search figures and of landing-page figures meet, and what does not, most rows first. */
export function joinsView(db: Db, site: Site): JoinsView {
  const search = addressesOf(db, site.id, 'search');
  const analytics = addressesOf(db, site.id, 'analytics');
  const pagesOf = (rows: readonly AddressRow[]) => new Set(rows.map(({ page }) => page));
  const [ofSearch, ofAnalytics] = [pagesOf(search), pagesOf(analytics)];
  const unmatched = (rows: readonly AddressRow[], other: ReadonlySet<string>): Unmatched[] => {
    const candidates = [...other]
      .slice(0, MOST_CANDIDATES)
      .map((page) => ({ page, plain: plainAddress(page) }));
    return rows
      .filter(({ page }) => !other.has(page))
      .sort((a, b) => b.rows - a.rows)
      .map((row) => ({ ...row, nearest: nearestOf(row.page, candidates) }));
  };
  const byHand = prepared<[number], JoinsView['byHand'][number]>(
    db,
    'SELECT id AS addressId, text AS address, joined_to AS page FROM address WHERE site_id = ? AND joined_to IS NOT NULL',
  ).all(site.id);
  return {
    matched: [...ofSearch].filter((page) => ofAnalytics.has(page)).length,
    left: unmatched(search, ofAnalytics),
    right: unmatched(analytics, ofSearch),
    byHand,
  };
}

/** A page's address without what sources most often spell otherwise: case, slashes at the end, index files, parameters. */
function plainAddress(page: string): string {
  const url = new URL(page);
  return url.pathname
    .toLowerCase()
    .replace(/\/(?:index|default)\.[a-z]+$/, '/')
    .replace(/\/+$/, '');
}

/** The nearest of some pages: the same but for usual differences, else by letters, if at most a fifth of them differ. */
function nearestOf(page: string, candidates: readonly { page: string; plain: string }[]): string | null {
  const plain = plainAddress(page);
  let best: string | null = null;
  let least = Math.floor(Math.max(2, plain.length / 5)) + 1;
  for (const candidate of candidates) {
    if (candidate.plain === plain) return candidate.page;
    if (Math.abs(candidate.plain.length - plain.length) >= least) continue;
    const far = distance(candidate.plain, plain);
    if (far < least) [best, least] = [candidate.page, far];
  }
  return best;
}
