import { bringForward, connect, disconnect } from '../store/database';
import { checkDatabaseFile, takeFolder } from '../store/folder';
import { databaseFile, dataDir } from '../store/paths';
import { asRefusal, DatabaseRefused } from '../store/refused';
import { rebuildDerived } from '../store/figures/derived';

async function main(): Promise<void> {
  const folder = takeFolder(dataDir(), 'deriving anew');
  checkDatabaseFile(databaseFile());
  const db = connect(databaseFile());
  try {
    bringForward(db);
    const pages = await rebuildDerived(db);
    console.log(`What is derived of ${pages.toLocaleString('en-GB')} pages was made again from the facts.`);
  } finally {
    disconnect(db);
    folder.release();
  }
}

main().catch((thrown: unknown) => {
  const error = asRefusal(thrown, `The folder ${dataDir()}`);
  console.error(error instanceof DatabaseRefused ? error.message : error);
  process.exit(1);
});
