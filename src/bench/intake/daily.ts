import { statSync } from 'node:fs';
import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { addDays, asDay, isoDay } from '../../core/calendar/day';
import { newChangeSchema } from '../../core/model/change';
import type { Site } from '../../core/model/site';
import { importFile } from '../../jobs/importFile';
import { Engines } from '../../services/site/engines';
import { readChange } from '../../services/reading/readChange';
import { SiteContext } from '../../services/site/siteContext';
import { bringForward, connect, type Db } from '../../store/database';
import { deriveAnewIfOutdated } from '../../store/figures/derived';
import { compactLayers } from '../../store/figures/fold';
import { addImport, findImport, updateImport } from '../../store/figures/imports';
import { addChange } from '../../store/ledger/changes';
import { addSite } from '../../store/sites';

/*
 * What a daily feed makes of a database: many files that each bring the last three days again, against one file with the
 * same rows; then the same after what is old enough was folded. Prints sizes and the time of a first reading as JSON.
 */
const [dir, daysText] = process.argv.slice(2) as [string, string];
const DAYS = Number(daysText);
const [PAGES, QUERIES] = [100, 20];
const FIRST = asDay(20_300);
const HEAD = 'date,page,query,clicks,impressions,position';

function linesOf(i: number): string[] {
  const lines: string[] = [];
  for (let p = 0; p < PAGES; p++) {
    for (let q = 0; q < QUERIES; q++) {
      const n = i * 31 + p * 7 + q;
      lines.push(
        `${isoDay(addDays(FIRST, i))},/page-${p}/,query ${p} ${q},${n % 5},${20 + (n % 90)},${(1 + (n % 200) / 10).toFixed(1)}`,
      );
    }
  }
  return lines;
}

async function bringIn(db: Db, site: Site, days: readonly number[], name: string): Promise<number> {
  const file = path.join(dir, `${name}.csv`);
  writeFileSync(file, [HEAD, ...days.flatMap(linesOf)].join('\n'));
  const takenOn = addDays(FIRST, days.at(-1)! + 1);
  const values = { siteId: site.id, fileName: name, bytesTotal: statSync(file).size, takenOn };
  const id = await addImport(db, { ...values, state: 'queued' });
  await importFile(db, id, file);
  if (findImport(db, id)!.state !== 'done') throw new Error(findImport(db, id)!.failure ?? 'not done');
  return id;
}

async function fresh(name: string): Promise<{ db: Db; site: Site; size: () => number }> {
  const file = path.join(dir, `${name}.sqlite`);
  const db = connect(file);
  bringForward(db);
  await deriveAnewIfOutdated(db, () => {});
  const site = await addSite(db, { name: 'Bench', address: 'https://www.quillow-bees.example' });
  const size = () => {
    db.$client.pragma('wal_checkpoint(TRUNCATE)');
    return statSync(file).size;
  };
  return { db, site, size };
}

/** Seconds of the first reading with figures from the disk, its queries and reasons included; median of five. */
async function firstReading(db: Db, site: Site): Promise<number> {
  const input = { title: 'Read', kind: 'headings', day: isoDay(addDays(FIRST, 120)), pages: ['/page-1/'] };
  const change = await addChange(db, site, newChangeSchema.parse(input));
  const times = Array.from({ length: 5 }, () => {
    const start = performance.now();
    readChange(new SiteContext(db, site), new Engines(db), change);
    return (performance.now() - start) / 1000;
  });
  return times.sort((a, b) => a - b)[2]!;
}

const all = Array.from({ length: DAYS }, (_, i) => i);
const one = await fresh('one');
await bringIn(one.db, one.site, all, 'one');
const single = { bytes: one.size(), reading: await firstReading(one.db, one.site) };

const feed = await fresh('feed');
const now = Date.now();
for (const i of all) {
  const id = await bringIn(feed.db, feed.site, all.slice(Math.max(0, i - 2), i + 1), `day ${i}`);
  // As if each had come on its day, the last of them yesterday.
  await updateImport(feed.db, id, {
    finishedAt: new Date(now - (DAYS - i) * 24 * 3600 * 1000).toISOString(),
  });
}
const unfolded = { bytes: feed.size(), reading: await firstReading(feed.db, feed.site) };
const start = performance.now();
await compactLayers(feed.db, feed.site, now);
const kept = { bytes: feed.size(), reading: await firstReading(feed.db, feed.site) };
await compactLayers(feed.db, feed.site, now + feed.site.undoDays * 24 * 3600 * 1000);
const seconds = (performance.now() - start) / 1000;
const folded = { bytes: feed.size(), reading: await firstReading(feed.db, feed.site) };
console.log(JSON.stringify({ rows: DAYS * PAGES * QUERIES, single, unfolded, kept, folded, seconds }));
