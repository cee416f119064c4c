import { bringForward, connect, databaseFile, DatabaseRefused } from '../store/database';
import { rebuildDerived } from '../store/derived';

async function main(): Promise<void> {
  const db = connect(databaseFile());
  try {
    bringForward(db);
    const totals = await rebuildDerived(db);
    console.log(`${totals.toLocaleString('en-GB')} daily totals were made again from the facts.`);
  } finally {
    db.$client.close();
  }
}

main().catch((error: unknown) => {
  console.error(error instanceof DatabaseRefused ? error.message : error);
  process.exit(1);
});
