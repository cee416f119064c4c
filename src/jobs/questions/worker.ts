import { parentPort } from 'node:worker_threads';
import { connect, databaseFile } from '../../store/database';
import { answersFor, answerTo, type Question } from './answers';

const answers = answersFor(connect(databaseFile()));

parentPort?.on('message', (question: Question) => parentPort?.postMessage(answerTo(answers, question)));
