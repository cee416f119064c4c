import { restoreBackup } from '../store/backup';
import { newestKnownMigration } from '../store/database';
import { takeFolder } from '../store/folder';
import { dataDir } from '../store/paths';
import { asRefusal, DatabaseRefused } from '../store/refused';
import { fileNamed, told } from './command';

/** `npm run restore -- FILE`: puts a backup in the place of the data, which is kept aside. */
async function main(): Promise<void> {
  const file = fileNamed('restore');
  const dir = dataDir();
  const folder = takeFolder(dir, 'restoring a backup');
  try {
    const { manifest, keptIn } = await restoreBackup(file, dir, newestKnownMigration());
    console.log(`Restored as of ${manifest.madeAt}: ${told(manifest.counts)}.`);
    if (keptIn) console.log(`What was there before is kept in ${keptIn}.`);
  } catch (error) {
    throw asRefusal(error, `The folder ${dir}`);
  } finally {
    folder.release();
  }
}

main().catch((error: unknown) => {
  console.error(error instanceof DatabaseRefused ? error.message : error);
  process.exit(1);
});
