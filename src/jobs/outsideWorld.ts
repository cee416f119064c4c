import { existsSync, readFileSync } from 'node:fs';
import path from 'node:path';
import Papa from 'papaparse';
import { parseIsoDay, type Day } from '../core/calendar/day';
import { get, type Get } from '../outside/http/get';
import { simulatedFeed, type TrueRow } from '../outside/figuresFeed/simulated';
import { simulatedRival, simulatedSource } from '../outside/resultPages/simulated';
import { sourceAt, type ResultSource } from '../outside/resultPages/source';
import type { SearchIndex } from '../outside/searchIndex/searchIndex';
import { simulatedSite } from '../outside/sitePages/simulated';
import { listChanges } from '../store/ledger/findChanges';
import { today } from '../store/clock';
import { type Db } from '../store/database';
import { dataDir } from '../store/paths';
import type { Site } from '../core/model/site';
import { resultsAccess } from '../store/wording/access';
import { pagePath } from '../core/address/address';
import { indexOfWorld, readResults, readWorld, simulatedPageOn } from './simulatedWorld';

/** The token that the simulated feed of the demo asks for. */
export const DEMO_TOKEN = 'bee-yard';

/** Where the demo leaves what its simulated feed knows. */
export function simulatedFigures(dir = dataDir()): string {
  return path.join(dir, 'outside', 'figures.csv');
}

/** Whether an address is of a name that no real host can have (`.example`, RFC 2606). */
function isMadeUp(address: string): boolean {
  return new URL(address).hostname.endsWith('.example');
}

/** What answers for the pages of a site on a day: the open internet, or for a made-up site the simulated one. */
export function reachPages(db: Db, site: Site, day = today(site.timeZone)): Get {
  const world = isMadeUp(site.address) ? readWorld(dataDir()) : null;
  if (!world) return get;
  const changes = listChanges(db, site.id);
  return simulatedSite((at) => simulatedPageOn(world, changes, at, day));
}

/** The index that can be asked about a site; null in the real world, where none answers. */
export function reachIndex(db: Db, site: Site): SearchIndex | null {
  const world = isMadeUp(site.address) ? readWorld(dataDir()) : null;
  return world && indexOfWorld(world, listChanges(db, site.id), today(site.timeZone));
}

/**
 * The source of result pages of a site on a day: its own, or for an invented site the simulated
 * one; null if it has none.
 */
export function reachResults(db: Db, site: Site, day = today(site.timeZone)): ResultSource | null {
  const searches = isMadeUp(site.address) ? readResults(dataDir()) : null;
  const world = searches && readWorld(dataDir());
  if (searches && world) {
    const changes = listChanges(db, site.id);
    const index = indexOfWorld(world, changes, day);
    return simulatedSource({
      ...{ today: day, site: site.address, searches },
      shown: async (address) => {
        const now = simulatedPageOn(world, changes, pagePath(address), day);
        const title = (await index.shown(address))?.title ?? now?.title;
        return now && title ? { title, description: now.description } : null;
      },
    });
  }
  const { address, token } = resultsAccess(db, site.id);
  return address === '' ? null : sourceAt(get, { address, token, privateHosts: site.privateHosts });
}

/** What answers for the pages of other sites among the results: the open internet, or for those of a made-up site's searches simulated ones. */
export function reachRivals(site: Site): Get {
  const searches = isMadeUp(site.address) ? readResults(dataDir()) : null;
  if (!searches) return get;
  const pages = new Map(
    searches.flatMap(({ query, asked, rivals }) =>
      rivals.map((rival) => [new URL(rival.address).pathname, simulatedRival(query, asked, rival)] as const),
    ),
  );
  return simulatedSite((at) => pages.get(at) ?? null);
}

/** How a feed is reached: the internet, or for an invented name the simulated feed of the demo. */
export function reachFeed(address: string): Get {
  if (!isMadeUp(address) || !existsSync(simulatedFigures())) return get;
  return simulatedFeed({
    today: today(),
    token: DEMO_TOKEN,
    rowsOf: rowsByDay(simulatedFigures()),
  });
}

function rowsByDay(file: string): (day: Day) => readonly TrueRow[] {
  const rows = Papa.parse<Record<string, string>>(readFileSync(file, 'utf8'), { header: true }).data;
  const byDay = new Map<number, TrueRow[]>();
  for (const row of rows) {
    const day = parseIsoDay(row.date ?? '');
    if (day === null) continue;
    const list = byDay.get(day) ?? [];
    byDay.set(day, list);
    list.push({
      day,
      page: row.page!,
      device: row.device!,
      clicks: Number(row.clicks),
      impressions: Number(row.impressions),
      position: Number(row.position),
    });
  }
  const last = Math.max(...byDay.keys());
  return (day) => {
    // Days after those that are known repeat the last week.
    const like = day <= last ? day : day - 7 * Math.ceil((day - last) / 7);
    return (byDay.get(like) ?? []).map((row) => ({ ...row, day }));
  };
}
