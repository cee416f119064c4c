import { arriveSite } from '../store/archive/arrive';
import { clearUnfinishedSites } from '../store/archive/siteImports';
import { ArchiveReader, ArchiveRefused } from '../store/archive/zip';
import { bringForward, connect, checkpoint, disconnect } from '../store/database';
import { takeFolder } from '../store/folder';
import { databaseFile, dataDir } from '../store/paths';
import { asRefusal, DatabaseRefused } from '../store/refused';
import { fileNamed } from './command';
import { counting } from './counting';

/** `npm run import-site -- FILE`: brings in a site that was exported, while no server runs on the data. */
async function main(): Promise<void> {
  const file = fileNamed('import-site', 'quillow-bees.zip');
  const folder = takeFolder(dataDir(), 'bringing in a site');
  const db = connect(databaseFile(), { canBeRepeated: true });
  try {
    bringForward(db);
    await clearUnfinishedSites(db);
    const archive = await ArchiveReader.open(file);
    try {
      const count = counting(
        archive.manifest.files.reduce((sum, { rows }) => sum + rows, 0),
        'read',
      );
      const id = await arriveSite(db, archive, count.at);
      count.end(`The site is here under the number ${id}`);
    } finally {
      archive.close();
    }
  } catch (error) {
    throw asRefusal(error, `The folder ${dataDir()}`);
  } finally {
    checkpoint(db, 'TRUNCATE');
    disconnect(db);
    folder.release();
  }
}

main().catch((error: unknown) => {
  const said = error instanceof DatabaseRefused || error instanceof ArchiveRefused;
  console.error(said ? error.message : error);
  process.exit(1);
});
