import path from 'node:path';
import { Worker, type WorkerOptions } from 'node:worker_threads';

/** Parts that run in threads of their own, built beside the application by `npm run build`. */
export type ThreadPart = 'worker' | 'questionsWorker' | 'readerThread' | 'checkpointsThread';

/**
 * Starts a part in a thread. The class is called so that the application’s bundler doesn’t follow
 * it, which would make another copy of the part.
 */
export function startThread(part: ThreadPart, options: WorkerOptions): Worker {
  const file = path.resolve(/* turbopackIgnore: true */ 'build', `${part}.mjs`);
  // Said, since a test gives its own.
  const thread = Reflect.construct(Worker, [file, { env: process.env, ...options }]) as Worker;
  const running = (shared.__tallyThreads ??= new Set());
  running.add(thread);
  thread.once('exit', () => running.delete(thread));
  return thread;
}

/** What a worker is told that waits to go on. */
export const GO_ON = 'go on';

// One list a process, wherever this module is loaded from.
const shared = globalThis as { __tallyThreads?: Set<Worker>; __tallyEnding?: boolean };

/** Whether the process is ending: threads that stop in the middle haven’t failed then. */
export function isEnding(): boolean {
  return shared.__tallyEnding === true;
}

/** Ends all threads, whatever they do; unfinished work resumes at the next start. */
export async function endThreads(): Promise<void> {
  shared.__tallyEnding = true;
  await Promise.all([...(shared.__tallyThreads ?? [])].map((thread) => thread.terminate()));
}
