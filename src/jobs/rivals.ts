import { readPage } from '../core/markup/page';
import type { Site } from '../core/model/site';
import type { ResultPage } from '../core/wording/resultPage';
import { AddressRefused } from '../outside/http/address';
import { AskFailed, type Get } from '../outside/http/get';
import { fetchSitePage, NoPage } from '../outside/sitePages/page';
import { RobotsRefuse } from '../outside/sitePages/robots';
import type { Db } from '../store/database';
import { keepRival } from '../store/wording/rivals';

/** Fetches the page of a result if its robots.txt allows it, and keeps its headings and length. */
export async function lookAtRival(
  db: Db,
  site: Site,
  { id, results }: ResultPage,
  rank: number,
  get: Get,
): Promise<void> {
  const result = results.find((one) => one.rank === rank);
  if (!result) return;
  try {
    const page = await readPage(await fetchSitePage(get, result.address, site.privateHosts));
    await keepRival(db, id, rank, {
      facts: {
        h1: page.headings.filter(({ level }) => level === 1).map(({ text }) => text.slice(0, 300)),
        headings: page.headings.length,
        words: page.words,
        types: page.structuredData.flatMap(({ types }) => types).slice(0, 20),
      },
    });
  } catch (error) {
    const known = [AddressRefused, AskFailed, NoPage, RobotsRefuse].some((kind) => error instanceof kind);
    if (!known) throw error;
    await keepRival(db, id, rank, { failure: (error as Error).message });
  }
}
