import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { parentPort } from 'node:worker_threads';
import { connect } from '../../store/database';
import { databaseFile } from '../../store/paths';
import { answersFor, answerTo, type Message, type Question } from './answers';

/** Answers that took this long have left much behind: typed arrays, whose size the engine hardly heeds. */
const LONG_MS = 300;

const answers = answersFor(connect(databaseFile()), (progress) =>
  parentPort?.postMessage({ progress } satisfies Message),
);
setFlagsFromString('--expose-gc');
const collectGarbage = runInNewContext('gc') as () => void;

parentPort?.on('message', (question: Question) => {
  const start = performance.now();
  void answerTo(answers, question).then((answer) => {
    parentPort?.postMessage(answer satisfies Message);
    if (performance.now() - start > LONG_MS) collectGarbage();
  });
});
