import { bringForward, connect, databaseFile, DatabaseRefused } from '../store/database';
import { rebuildDerived } from '../store/figures/derived';

async function main(): Promise<void> {
  const db = connect(databaseFile());
  try {
    bringForward(db);
    const pages = await rebuildDerived(db);
    console.log(`What is derived of ${pages.toLocaleString('en-GB')} pages was made again from the facts.`);
  } finally {
    db.$client.close();
  }
}

main().catch((error: unknown) => {
  console.error(error instanceof DatabaseRefused ? error.message : error);
  process.exit(1);
});
