import { createHash } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { mkdir, readFile, rename, rm, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { pipeline } from 'node:stream/promises';
import { z } from 'zod';
import { isoDay, type Day } from '../core/calendar/day';
import type { Span } from '../core/calendar/span';
import { spanText } from '../core/words/format';
import { feedAddress, FeedRefused, fetchPage, PATIENCE, type Retrying } from '../outside/figuresFeed/feed';
import { AddressRefused } from '../outside/http/address';
import { AskFailed, type Get } from '../outside/http/get';
import { today } from '../store/clock';
import { type Db } from '../store/database';
import { dataDir } from '../store/paths';
import { daysToAsk, findFeed, updateFeed, type FeedRow } from '../store/figures/feeds';
import { addImport, confirmDraft } from '../store/figures/imports';
import { findSite, siteToday } from '../store/sites';
import { timestamp } from '../store/write';
import { keepReceived } from './spool';

/** Most pages of one fetch. */
const MOST_PAGES = 2000;
/** Most empty pages in a row. */
const MOST_EMPTY = 5;

const stateSchema = z.object({
  firstDay: z.int(),
  lastDay: z.int(),
  pages: z.int(),
  bytes: z.int(),
  rows: z.int(),
  /** Empty pages since the last one with rows. */
  empty: z.int().default(0),
  /** Digests of the addresses that were asked. */
  asked: z.array(z.string()).default([]),
  head: z.string(),
  /** Where the next page is; null when all are there. */
  next: z.string().nullable(),
});
/** How far a fetch has come, as it is kept on disk for a process that takes it up again. */
type FetchState = z.infer<typeof stateSchema>;

/** Where the pages of a fetch wait until all are there. */
function fetchDir(feedId: number, dir: string): string {
  return path.join(dir, 'uploads', `feed-${feedId}`);
}

async function stateIn(folder: string): Promise<FetchState | null> {
  try {
    return stateSchema.parse(JSON.parse(await readFile(path.join(folder, 'state.json'), 'utf8')));
  } catch {
    return null;
  }
}

async function keepState(folder: string, state: FetchState): Promise<void> {
  const file = path.join(folder, 'state.json');
  await writeFile(`${file}.new`, JSON.stringify(state));
  await rename(`${file}.new`, file);
}

/**
 * Fetches a feed: the days that aren’t final, page by page, and queues them as one import. A fetch
 * that a stopped process left is resumed. Failures are recorded with the feed.
 */
export async function fetchFeed(
  db: Db,
  feedId: number,
  get: Get,
  retrying: Retrying = { pause: (ms) => sleep(ms), ...PATIENCE },
  dir = dataDir(),
): Promise<void> {
  const feed = findFeed(db, feedId);
  const site = feed && findSite(db, feed.siteId);
  if (!feed || !site) return;
  const folder = fetchDir(feedId, dir);
  await mkdir(folder, { recursive: true });
  const interrupted = feed.state === 'fetching' ? await stateIn(folder) : null;
  await updateFeed(db, feedId, { state: 'fetching', lastTriedAt: timestamp(), failure: null });
  try {
    const days = daysToAsk(db, site, feedId, today(site.timeZone));
    let state: FetchState = interrupted ?? {
      ...days,
      ...{
        pages: 0,
        bytes: 0,
        rows: 0,
        empty: 0,
        asked: [],
        head: '',
        next: feedAddress(feed.address, days),
      },
    };
    while (state.next !== null) {
      refuseEndless(state);
      state = await takePage(get, feed, state, folder, retrying);
      await updateFeed(db, feedId, { pagesFetched: state.pages });
    }
    if (state.rows > 0) await queue(db, feed, state, folder, dir);
    await updateFeed(db, feedId, { state: 'idle', lastFetchedAt: timestamp() });
  } catch (error) {
    const known =
      error instanceof FeedRefused || error instanceof AskFailed || error instanceof AddressRefused;
    await updateFeed(db, feedId, {
      state: 'idle',
      failure: known ? error.message : 'Something went wrong in the program itself; the log says more.',
    });
    if (!known) throw error;
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** Throws FeedRefused if the feed loops or never ends. */
function refuseEndless({ pages, empty, asked, next }: FetchState): void {
  if (asked.includes(addressMark(next!)))
    throw new FeedRefused(`Page ${pages} of the feed links to a page that was already fetched.`);
  if (empty >= MOST_EMPTY)
    throw new FeedRefused(
      `The last ${MOST_EMPTY} pages of the feed were empty but still linked to a next page.`,
    );
  if (pages >= MOST_PAGES)
    throw new FeedRefused(`The feed has more than ${MOST_PAGES} pages. Use larger pages.`);
}

const addressMark = (address: string) =>
  createHash('sha256').update(address).digest('base64url').slice(0, 12);

async function takePage(
  get: Get,
  feed: FeedRow,
  state: FetchState,
  folder: string,
  retrying: Retrying,
): Promise<FetchState> {
  const { csv, next } = await fetchPage(get, feed, state.next!, retrying);
  const text = csv.replace(/^\ufeff/, '');
  const end = /\r\n|\n|\r/.exec(text);
  const head = end ? text.slice(0, end.index) : text.trimEnd();
  const rows = end ? text.slice(end.index + end[0].length) : '';
  if (state.pages > 0 && head !== state.head)
    throw new FeedRefused(`Page ${state.pages + 1} of the feed has other columns than its first page.`);
  const page = rows === '' || /[\r\n]$/.test(rows) ? rows : `${rows}\n`;
  await writeFile(path.join(folder, `${state.pages}.csv`), page);
  const after: FetchState = {
    ...state,
    head,
    next,
    pages: state.pages + 1,
    bytes: state.bytes + Buffer.byteLength(page),
    rows: state.rows + (page.trim() === '' ? 0 : 1),
    empty: page.trim() === '' ? state.empty + 1 : 0,
    asked: [...state.asked, addressMark(state.next!)],
  };
  await keepState(folder, after);
  return after;
}

/** Puts the pages together as one file and in the queue of imports. */
async function queue(
  db: Db,
  feed: FeedRow,
  { head, pages, bytes, ...days }: FetchState,
  folder: string,
  dir: string,
): Promise<void> {
  const whole = path.join(dir, 'uploads', `feed-${feed.id}.part`);
  await writeFile(whole, `${head}\n`);
  for (let page = 0; page < pages; page++) {
    await pipeline(
      createReadStream(path.join(folder, `${page}.csv`)),
      createWriteStream(whole, { flags: 'a' }),
    );
  }
  const span = { firstDay: days.firstDay as Day, lastDay: days.lastDay as Day } satisfies Span;
  const id = await addImport(db, {
    siteId: feed.siteId,
    feedId: feed.id,
    fileName: `${feed.name}, ${spanText(span)} ${isoDay(span.lastDay).slice(0, 4)}`,
    bytesTotal: bytes + head.length + 1,
    takenOn: siteToday(db, feed.siteId),
    state: 'draft',
  });
  await keepReceived(whole, id, dir);
  await confirmDraft(db, id, {});
}
