import { existsSync, readFileSync } from 'node:fs';
import { mkdir, rm, stat, writeFile } from 'node:fs/promises';
import path from 'node:path';
import Papa from 'papaparse';
import { addDays, isoDay, parseIsoDay, type Day } from '../core/calendar/day';
import { newChangeSchema } from '../core/model/change';
import { newEventSchema } from '../core/model/event';
import { importFile } from '../jobs/importFile';
import { lookAtPage } from '../jobs/lookAtPage';
import { DEMO_TOKEN, reachPages, reachResults, simulatedFigures } from '../jobs/outsideWorld';
import { simulatedPagesFile, simulatedResultsFile } from '../jobs/simulatedWorld';
import { bringInResultPage } from '../services/wording/resultPages';
import { demoResults, LOOKED_UP_AGO } from './rivals';
import { spoolFile, dropSpooled } from '../jobs/spool';
import type { Site } from '../core/model/site';
import { addChange, recordStep } from '../store/ledger/changes';
import { today } from '../store/clock';
import { bringForward, connect, type Db } from '../store/database';
import { checkDatabaseFile, takeFolder } from '../store/folder';
import { databaseFile, dataDir } from '../store/paths';
import { asRefusal, DatabaseRefused } from '../store/refused';
import { deriveAnewIfOutdated } from '../store/figures/derived';
import { addEvent } from '../store/ledger/events';
import { addFeed } from '../store/figures/feeds';
import { siteCoverage } from '../store/figures/coverage';
import { addImport, findImport } from '../store/figures/imports';
import { listPages } from '../store/addresses/pages';
import { addSite, listSites, saveSiteSettings } from '../store/sites';
import { setWatched } from '../store/evidence/snapshots';
import { PAGES, SITE } from './pages';
import { simulate } from './simulate';
import { CHANGES, DAYS, EVENTS, LOST_DAYS_AGO, type DemoStep } from './story';
import { makeReport } from './report';
import { makeRoutines } from './routines';
import { makeRounds, withRounds } from './rounds';
import { searchesAMonth, simulateChecks } from './lookedUp';
import { ORDER_WORTH, simulateVisits, takeTurns } from './visits';
import { demoWorld, LOOKED_AGO, WATCHED } from './world';

const SEED = 212;
/** Newest days that the simulated feed knows. */
const FEED_DAYS = 28;

/** The made-up site's figures end two days before today, as those of a usual source do. */
function lastDayToday(): Day {
  return addDays(today(), -2);
}

async function bringIn(
  db: Db,
  siteId: number,
  fileName: string,
  rows: Record<string, unknown>[],
): Promise<void> {
  const values = { siteId, fileName, bytesTotal: 0, takenOn: today(), state: 'draft' as const };
  const id = await addImport(db, values);
  const file = spoolFile(id);
  await mkdir(`${dataDir()}/uploads`, { recursive: true });
  await writeFile(file, Papa.unparse(rows));
  db.$client.prepare('UPDATE import SET bytes_total = ? WHERE id = ?').run((await stat(file)).size, id);
  await importInOwnConnection(id, file);
  const done = findImport(db, id);
  if (done?.state !== 'done') throw new Error(`The demo’s own file was refused: ${done?.failure}`);
  await dropSpooled(id);
}

/** Leaves what the simulated feed knows where it looks for it. */
async function leaveForFeed(rows: Record<string, unknown>[]): Promise<void> {
  await mkdir(path.dirname(simulatedFigures()), { recursive: true });
  await writeFile(simulatedFigures(), Papa.unparse(rows));
}

async function importInOwnConnection(id: number, file: string): Promise<void> {
  const db = connect(databaseFile());
  try {
    await importFile(db, id, file);
  } finally {
    db.$client.close();
  }
}

async function makeDemo(db: Db): Promise<void> {
  const lastDay = lastDayToday();
  const site = await addSite(db, SITE);
  const simulated = simulate({
    pages: PAGES,
    changes: CHANGES,
    events: EVENTS,
    lostDaysAgo: LOST_DAYS_AGO,
    lastDay,
    days: DAYS,
    seed: SEED,
  });
  const changed = withRounds(simulated, lastDay);
  const { pageRows, queryRows } = takeTurns(changed.pageRows, changed.queryRows, lastDay);
  const written = { position: (p: number) => p.toFixed(1), page: (path: string) => SITE.address + path };
  const asWritten = (rows: typeof pageRows) =>
    rows.map(({ day, path: at, position, ...row }) => ({
      date: isoDay(day),
      page: written.page(at),
      ...row,
      position: written.position(position),
    }));
  await bringIn(db, site.id, 'pages by day and device.csv', asWritten(pageRows));
  await bringIn(
    db,
    site.id,
    'queries by page and day.csv',
    queryRows.map(({ day, path: at, position, ...row }) => ({
      date: isoDay(day),
      page: written.page(at),
      ...row,
      position: written.position(position),
    })),
  );
  await bringIn(
    db,
    site.id,
    'landing pages by day.csv',
    simulateVisits(pageRows, SEED).map(({ day, path: at, engaged, ...row }) => ({
      ...{ date: isoDay(day), page: written.page(at) },
      ...{ sessions: row.sessions, 'engaged sessions': engaged },
      ...{ conversions: row.conversions, revenue: row.revenue },
    })),
  );
  await bringIn(
    db,
    site.id,
    'positions looked up.csv',
    simulateChecks(queryRows, lastDay, SEED).map(({ day, query, position }) => ({
      ...{ date: isoDay(day), query },
      position: position === 0 ? '' : position,
    })),
  );
  await bringIn(db, site.id, 'searches a month.csv', searchesAMonth(queryRows, lastDay));
  await saveSiteSettings(db, site.id, { worthOfConversion: ORDER_WORTH });
  await leaveForFeed(asWritten(pageRows.filter(({ day }) => day > addDays(lastDay, -FEED_DAYS))));
  await addFeed(db, site.id, {
    name: 'Daily pages by device',
    address: 'https://figures.quillow-bees.example/daily',
    token: DEMO_TOKEN,
    daily: false,
    allowPrivate: false,
  });
  for (const { ago, days, name, kind, note } of EVENTS) {
    const firstDay = addDays(lastDay, -ago);
    await addEvent(
      db,
      site.id,
      newEventSchema.parse({
        name,
        kind,
        note,
        firstDay: isoDay(firstDay),
        lastDay: isoDay(addDays(firstDay, days - 1)),
      }),
    );
  }
  for (const change of CHANGES) {
    const day = addDays(lastDay, -change.ago);
    const { title, kind, pages, person, queries, oldText, newText, expect, ticket, note, tags, steps } =
      change;
    const { id } = await addChange(
      db,
      site,
      newChangeSchema.parse({
        ...{ title, kind, pages, person, queries, oldText, newText, note, tags },
        day: isoDay(day),
        link: ticket && `https://tickets.quillow-bees.example/BEE-${ticket}`,
        expectation: expect && {
          metric: expect.metric,
          direction: 'up',
          amount: expect.amount,
          reviewDay: isoDay(addDays(day, expect.inDays)),
        },
      }),
    );
    for (const [step, after] of Object.entries(steps ?? {}) as [DemoStep, number][])
      await recordStep(db, id, { step, day: isoDay(addDays(day, after)) }, undefined, addDays(day, after));
  }
  await makeRounds(db, site, { pageRows, queryRows }, lastDay);
  await makeReport(db, site, lastDay);
  await makeRoutines(db, site, lastDay);
  await leavePages(db, site, lastDay);
}

/** Leaves the pages of the made-up site where they are fetched from, and has the watched ones fetched as the days went by. */
async function leavePages(db: Db, site: Site, lastDay: Day): Promise<void> {
  await writeFile(simulatedPagesFile(dataDir()), JSON.stringify(demoWorld(lastDay), null, 1));
  await writeFile(simulatedResultsFile(dataDir()), JSON.stringify(demoResults(lastDay), null, 1));
  const watched = new Set<string>(WATCHED.map((path) => SITE.address + path));
  const pages = listPages(db, site.id).filter(({ address }) => watched.has(address));
  for (const day of [...LOOKED_AGO.map((ago) => addDays(lastDay, -ago)), today()])
    for (const page of pages) await lookAtPage(db, site, page, reachPages(db, site, day), day);
  await setWatched(
    db,
    site.id,
    pages.map(({ id }) => id),
    true,
  );
  await lookUpResults(db, site, lastDay);
  await writeFile(countsFile(), JSON.stringify(entryCounts(db)));
}

/** Has the results of the made-up searches looked at as the days went by. */
async function lookUpResults(db: Db, site: Site, lastDay: Day): Promise<void> {
  for (const day of LOOKED_UP_AGO.map((ago) => addDays(lastDay, -ago))) {
    const source = reachResults(db, site, day)!;
    for (const { query } of demoResults(lastDay)) {
      const shown = await source({ query, language: site.language, country: '', device: 'all' });
      await bringInResultPage(db, site, { ...shown, query, day: isoDay(day) });
    }
  }
}

/** Tables that people add to, each with how many rows it has. */
function entryCounts(db: Db): Record<string, number> {
  const tables = [
    ...['site', 'change', 'change_history', 'event', 'event_history', 'feed', 'sighting', 'import'],
    ...['page_trait', 'query_trait', 'kept_filter', 'passed_opening', 'sheet', 'site_word'],
    ...['result_page', 'draft', 'left_out_term', 'round', 'round_page', 'round_history'],
    ...['taken_opening', 'report', 'report_issue', 'routine', 'routine_done'],
  ];
  const count = (table: string) =>
    db.$client.prepare<[], { n: number }>(`SELECT count(*) AS n FROM "${table}"`).get()?.n ?? 0;
  return Object.fromEntries(tables.map((table) => [table, count(table)]));
}

/** Where it is noted how many entries the demo came with. */
const countsFile = () => path.join(dataDir(), 'outside', 'entries.json');

/** Whether somebody added anything to the demo since it was made; then it is not made anew behind their back. */
function hasOwnEntries(db: Db): boolean {
  if (!existsSync(countsFile())) return true;
  const made = JSON.parse(readFileSync(countsFile(), 'utf8')) as Record<string, number>;
  return Object.entries(entryCounts(db)).some(([table, n]) => made[table] !== n);
}

async function removeDatabase(): Promise<void> {
  for (const suffix of ['', '-wal', '-shm']) await rm(databaseFile() + suffix, { force: true });
}

/** Whether the demo that is there ends on another day, and nobody added anything to it. */
function shouldBeMadeAnew(): boolean {
  const db = connect(databaseFile());
  try {
    bringForward(db);
    const [site] = listSites(db);
    if (!site) return true;
    if (siteCoverage(db, site.id)?.lastDay === lastDayToday()) return false;
    if (!hasOwnEntries(db)) return true;
    console.log(
      'The demo holds entries of your own, so it stays as it is. `npm run demo -- --fresh` makes it anew.',
    );
    return false;
  } finally {
    db.$client.close();
  }
}

async function main(): Promise<void> {
  if (process.env.TALLY_TODAY && !parseIsoDay(process.env.TALLY_TODAY)) {
    throw new DatabaseRefused('TALLY_TODAY must be a day written YYYY-MM-DD.');
  }
  const folder = takeFolder(dataDir(), 'making the demo');
  try {
    await makeDemoIfWanted(process.argv.includes('--fresh'));
  } finally {
    folder.release();
  }
}

async function makeDemoIfWanted(fresh: boolean): Promise<void> {
  if (existsSync(databaseFile())) {
    // One that is broken can be made anew, if that is what is asked for.
    if (!fresh) checkDatabaseFile(databaseFile());
    if (!fresh && !shouldBeMadeAnew()) return;
    await removeDatabase();
  }
  console.log('Making the made-up site …');
  const db = connect(databaseFile());
  try {
    bringForward(db);
    await deriveAnewIfOutdated(db, () => {});
    await makeDemo(db);
  } catch (error) {
    db.$client.close();
    // Half a demo would look like a broken program at the next start.
    await removeDatabase();
    throw error;
  }
  db.$client.close();
}

main().catch((thrown: unknown) => {
  const error = asRefusal(thrown, `The folder ${dataDir()}`);
  console.error(error instanceof DatabaseRefused ? error.message : error);
  process.exit(1);
});
