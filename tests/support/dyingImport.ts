import { connect } from '@/store/database';
import { importFile } from '@/jobs/importFile';

/*
 * Brings a file in and dies on the way, as if the power had gone: in the transaction of the number given, before it is
 * committed or right after. A process of its own, started by the test.
 */
const [database, importId, file, transaction, moment, threads] = process.argv.slice(2) as [
  string,
  ...string[],
];
const db = connect(database);
const transactionOf = db.$client.transaction.bind(db.$client);
let begun = 0;
const die = () => process.kill(process.pid, 'SIGKILL');

db.$client.transaction = ((work: () => unknown) => {
  const turn = ++begun === Number(transaction);
  const run = transactionOf(() => {
    const result = work();
    if (turn && moment === 'before') die();
    return result;
  });
  const immediate = () => {
    const result = run.immediate();
    if (turn && moment === 'after') die();
    return result;
  };
  return Object.assign(() => run(), { immediate });
}) as unknown as typeof db.$client.transaction;

importFile(db, Number(importId), file!, { threads: Number(threads) }).then(
  () => process.exit(0),
  (error: unknown) => {
    console.error(error);
    process.exit(2);
  },
);
