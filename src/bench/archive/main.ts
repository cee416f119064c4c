import { createWriteStream, statSync } from 'node:fs';
import { once } from 'node:events';
import path from 'node:path';
import { isoDay, asDay } from '../../core/calendar/day';
import { importFile } from '../../jobs/importFile';
import { bringForward, connect } from '../../store/database';
import { databaseFile, dataDir } from '../../store/paths';
import { addImport } from '../../store/figures/imports';
import { addSite } from '../../store/sites';

/*
 * A site with so many rows by page, query and country, in the folder of data, to be saved and brought in elsewhere.
 */
const ROWS = Number(process.argv[2]);
const [PAGES, DAYS, FIRST] = [500, 400, 20_300];

async function main(): Promise<void> {
  const file = path.join(dataDir(), 'rows.csv');
  const db = connect(databaseFile(), { canBeRepeated: true });
  bringForward(db);
  const site = await addSite(db, { name: 'Quillow Bee Yard', address: 'https://www.quillow-bees.example' });
  const out = createWriteStream(file);
  let text = 'date,page,query,country,clicks,impressions,position\n';
  const aDay = Math.ceil(ROWS / DAYS);
  for (let i = 0; i < ROWS; i++) {
    const n = i % aDay;
    text += `${isoDay(asDay(FIRST + Math.floor(i / aDay)))},/guides/page-${n % PAGES}/,query number ${n},land ${n % 5},${i % 7},${40 + (i % 500)},${(1 + (i % 300) / 10).toFixed(1)}\n`;
    if (text.length < 1 << 20) continue;
    if (!out.write(text)) await once(out, 'drain');
    text = '';
  }
  out.end(text);
  await once(out, 'finish');
  const importId = await addImport(db, {
    ...{ siteId: site.id, fileName: 'rows.csv', bytesTotal: statSync(file).size, takenOn: asDay(21_000) },
    state: 'queued',
  });
  // In this thread alone: the readers beside it are parts of the build.
  await importFile(db, importId, file, { threads: 0 });
  db.$client.pragma('wal_checkpoint(TRUNCATE)');
  db.$client.close();
}

void main();
