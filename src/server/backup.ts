import path from 'node:path';
import { makeBackup } from '../store/backup';
import { dataDir } from '../store/paths';
import { asRefusal, DatabaseRefused } from '../store/refused';
import { targetNamed, told } from './command';

/** `npm run backup -- FILE [--replace]`: a copy of all data, taken while the server runs. */
async function main(): Promise<void> {
  const file = targetNamed('backup');
  const { counts, files } = await makeBackup(dataDir(), file).catch((error: unknown) => {
    throw asRefusal(error, `The folder ${path.dirname(file)}`);
  });
  const bytes = files.reduce((sum, one) => sum + one.bytes, 0);
  console.log(`${file} holds ${told(counts)}; ${bytes.toLocaleString('en-GB')} bytes, checked.`);
}

main().catch((error: unknown) => {
  console.error(error instanceof DatabaseRefused ? error.message : error);
  process.exit(1);
});
