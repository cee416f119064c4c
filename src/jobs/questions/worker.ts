import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { parentPort, workerData } from 'node:worker_threads';
import { connect } from '../../store/database';
import { databaseFile } from '../../store/paths';
import { Answering } from './answering';
import type { Question } from './question';

/** Answers that took this long have left much behind: typed arrays, whose size the engine hardly heeds. */
const LONG_MS = 300;
/** So often it is looked whether other figures count by now, though nobody asks. */
const LOOKS_EVERY_MS = 1000;

const { siteId } = workerData as { siteId: number };
const answering = new Answering(connect(databaseFile()), siteId, (message) =>
  parentPort?.postMessage(message),
);
setFlagsFromString('--expose-gc');
const collectGarbage = runInNewContext('gc') as () => void;

parentPort?.on('message', (question: Question) => {
  const start = performance.now();
  void answering.put(question).then(() => {
    if (performance.now() - start > LONG_MS) collectGarbage();
  });
});
setInterval(() => answering.idle(), LOOKS_EVERY_MS).unref();
