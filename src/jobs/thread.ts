import path from 'node:path';
import { Worker, type WorkerOptions } from 'node:worker_threads';

/** Parts that run in threads of their own, built beside the application by `npm run build`. */
export type ThreadPart = 'worker' | 'questionsWorker' | 'readerThread';

/**
 * Starts a part in a thread. The class is called in a way that the bundler of the application does not follow, which
 * would make another copy of the part within the application.
 */
export function startThread(part: ThreadPart, options: WorkerOptions): Worker {
  const file = path.resolve(/* turbopackIgnore: true */ 'build', `${part}.mjs`);
  // Said, since a test gives its own.
  return Reflect.construct(Worker, [file, { env: process.env, ...options }]) as Worker;
}
