import { readFileSync, statSync } from 'node:fs';
import path from 'node:path';
import { asDay } from '../../core/calendar/day';
import { importFile } from '../../jobs/importFile';
import { bringForward, connect } from '../../store/database';
import { addImport, findImport } from '../../store/figures/imports';
import { addSite, listSites } from '../../store/sites';

/*
 * Brings one file in, in a process of its own, as the server's worker does. Started with the folder of the database and
 * the file; prints what it took as JSON.
 */
const [dir, file] = process.argv.slice(2) as [string, string];
const db = connect(path.join(dir, 'tally.sqlite'));
bringForward(db);
const site =
  listSites(db)[0] ?? (await addSite(db, { name: 'Bench', address: 'https://www.quillow-bees.example' }));
const values = {
  siteId: site.id,
  fileName: 'bench.csv',
  bytesTotal: statSync(file).size,
  takenOn: asDay(20_900),
};
const id = await addImport(db, { ...values, state: 'queued' });
// From here on it is what the server's worker does with a file in the queue.
const start = performance.now();
await importFile(db, id, file);
const done = findImport(db, id)!;
if (done.state !== 'done') throw new Error(done.failure ?? done.state);
db.$client.close();
console.log(
  JSON.stringify({
    seconds: (performance.now() - start) / 1000,
    peakMb: peakMb(),
    rows: done.rowsStored,
    replaced: done.rowsReplaced,
    changed: done.rowsChanged,
  }),
);

/**
 * The most memory this process has held. What the system calls the largest resident set starts with that of the process
 * that started this one, so Linux is asked for the peak of this program alone.
 */
function peakMb(): number {
  if (process.platform !== 'linux') return process.resourceUsage().maxRSS / 1024;
  const peak = /^VmHWM:\s+(\d+) kB/m.exec(readFileSync('/proc/self/status', 'utf8'));
  return Number(peak![1]) / 1024;
}
