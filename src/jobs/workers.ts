/* Threads that do a task each: one that has loaded its code waits for the next task. */

import { namedError } from '../core/errors';
import type { Worker } from 'node:worker_threads';
import { database } from '../store/database';
import { findImport } from '../store/figures/imports';
import { FileRefused } from './intake/fileRefused';
import { holdFigures } from './questions/ask';
import { GO_ON, isEnding, startThread } from './thread';
import type { WorkerMessage, WorkerTask } from './worker';

// One thread waits a process, wherever this module is loaded from.
const shared = globalThis as { __tallySpare?: Worker | null };

/** A thread with loaded code, waiting for a task: loading takes longer than most tasks. */
function loadedWorker(): Worker {
  return startThread('worker', { resourceLimits: { maxOldGenerationSizeMb: 1024 } });
}

/** Has a thread ready for the next task. */
export function readyWorker(): void {
  keepSpare(shared.__tallySpare ?? loadedWorker());
}

/** Lets a thread wait for the next task, or ends it where one waits already. */
function keepSpare(worker: Worker): void {
  if (shared.__tallySpare && shared.__tallySpare !== worker) {
    void worker.terminate();
    return;
  }
  shared.__tallySpare = worker;
  // One that waits must not keep the process alive.
  worker.unref();
  const gone = () => {
    if (shared.__tallySpare === worker) shared.__tallySpare = null;
  };
  worker.once('error', gone);
  worker.once('exit', gone);
}

function takeWorker(): Worker {
  const worker = shared.__tallySpare ?? loadedWorker();
  shared.__tallySpare = null;
  worker.removeAllListeners();
  worker.ref();
  return worker;
}

/** Larger files leave much memory behind, which ends with their thread. */
const SMALL_FILE_BYTES = 16 * 1024 * 1024;

/** Whether a thread is as good as new after a task, and has its code compiled besides. */
function isLight(task: WorkerTask): boolean {
  if (task.task === 'import')
    return (findImport(database(), task.importId)?.bytesTotal ?? 0) < SMALL_FILE_BYTES;
  // Pages and feeds come from outside: what they do to a thread ends with it.
  return !['feed', 'look', 'unpack', 'read-results', 'rival', 'arrive', 'archive'].includes(task.task);
}

/** Runs a task in a thread of its own. Beyond a time limit it is ended, which is an error. */
export function runWorker(task: WorkerTask, limitMs?: number): Promise<unknown> {
  return new Promise((resolve, reject) => {
    const worker = takeWorker();
    worker.postMessage(task, task.task === 'archive' ? [task.port] : []);
    const limit =
      limitMs !== undefined &&
      setTimeout(() => {
        reject(new TookTooLong(`It took longer than ${limitMs / 1000} seconds.`));
        void worker.terminate();
      }, limitMs);
    const over = () => {
      if (limit) clearTimeout(limit);
      worker.removeAllListeners();
    };
    worker.on('message', (answer: WorkerMessage) => {
      if ('aboutToCount' in answer)
        return void holdFigures(answer.aboutToCount).then(() => worker.postMessage(GO_ON));
      over();
      if (isLight(task)) keepSpare(worker);
      else void worker.terminate().then(readyWorker);
      if ('refused' in answer) reject(new FileRefused(answer.refused, answer.toState));
      else resolve(answer.result);
    });
    const failed = (error: Error) => {
      over();
      if (!isEnding()) readyWorker();
      reject(error);
    };
    worker.once('error', (error: Error & { code?: string }) =>
      failed(error.code === 'ERR_WORKER_OUT_OF_MEMORY' ? new FileRefused(TOO_MUCH_MEMORY) : error),
    );
    worker.once('exit', (code) =>
      failed(new Error(`The worker ended with code ${code} before it answered.`)),
    );
  });
}

const TOO_MUCH_MEMORY =
  'Reading the file takes more memory than there is for it; divide it, or send it as CSV.';

export class TookTooLong extends namedError('TookTooLong') {}
