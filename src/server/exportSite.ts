import { createWriteStream, renameSync, rmSync } from 'node:fs';
import { pipeline } from 'node:stream/promises';
import { archiveOf } from '../jobs/siteArchive';
import { archiveRows } from '../store/archive/contents';
import { bringForward, connect, disconnect } from '../store/database';
import { checkDatabaseFile } from '../store/folder';
import { databaseFile } from '../store/paths';
import { asRefusal, DatabaseRefused } from '../store/refused';
import { listSites } from '../store/sites';
import { namedAfter, targetNamed } from './command';
import { counting } from './counting';

/**
 * `npm run export-site -- FILE [SITE] [--replace]`: all of a site as one file, made while the
 * server runs or not.
 */
async function main(): Promise<void> {
  const [, wished] = namedAfter();
  const file = targetNamed('export-site', 'quillow-bees.zip', 2);
  checkDatabaseFile(databaseFile());
  const db = connect(databaseFile());
  let siteId: number;
  let total: number;
  try {
    bringForward(db);
    const sites = listSites(db);
    const one =
      wished === undefined && sites.length === 1 ? sites[0] : sites.find(({ id }) => String(id) === wished);
    if (!one)
      throw new DatabaseRefused(
        `Name one site by its number after the file:\n${sites.map(({ id, name, address }) => `${id}  ${name}  ${address}`).join('\n')}`,
      );
    siteId = one.id;
    total = archiveRows(db, siteId);
  } finally {
    disconnect(db);
  }
  const unfinished = `${file}.part`;
  const count = counting(total, 'written');
  try {
    await pipeline(archiveOf(siteId, count.at), createWriteStream(unfinished, { mode: 0o600, flush: true }));
    renameSync(unfinished, file);
    count.end(`${file} holds the site`);
  } catch (error) {
    throw asRefusal(error, `The file ${file}`);
  } finally {
    rmSync(unfinished, { force: true });
  }
}

main().catch((error: unknown) => {
  console.error(error instanceof DatabaseRefused ? error.message : error);
  process.exit(1);
});
