import { parentPort, workerData } from 'node:worker_threads';
import type { Day } from '../core/calendar/day';
import type { Stated } from '../core/intake/inspection';
import type { Site } from '../core/model/site';
import { connect, databaseFile } from '../store/database';
import { importFile } from './importFile';
import { inspectFile } from './inspectFile';
import type { FileRefused } from './intake/fileRefused';
import { rememberedFor } from './intake/settings';
import { spoolFile } from './spool';

/** What a worker is started with: one task, after which it ends. */
export type WorkerTask =
  | { readonly task: 'import'; readonly importId: number }
  | {
      readonly task: 'inspect';
      readonly importId: number;
      readonly site: Pick<Site, 'id' | 'address'>;
      readonly newestDay: Day;
      readonly stated: Stated;
    };

/** What it answers: the result, or the sentence of an error that a person caused. */
export type WorkerAnswer = { readonly result: unknown } | {
  readonly refused: string;
  readonly toState: FileRefused['toState'];
};

async function run(task: WorkerTask): Promise<unknown> {
  const db = connect(databaseFile());
  try {
    if (task.task === 'inspect') {
      const { site, newestDay, stated } = task;
      return await inspectFile(spoolFile(task.importId), site, newestDay, stated, (head) =>
        rememberedFor(db, site.id, head),
      );
    }
    await importFile(db, task.importId, spoolFile(task.importId));
    return null;
  } finally {
    db.$client.close();
  }
}

run(workerData as WorkerTask).then(
  (result) => parentPort?.postMessage({ result } satisfies WorkerAnswer),
  (error: unknown) => {
    // Other errors are left to end the worker, which the one who started it sees.
    if (!(error instanceof Error) || error.name !== 'FileRefused') throw error;
    const { message, toState } = error as FileRefused;
    parentPort?.postMessage({ refused: message, toState } satisfies WorkerAnswer);
  },
);
