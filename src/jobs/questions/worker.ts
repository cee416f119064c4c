import { parentPort } from 'node:worker_threads';
import { connect } from '../../store/database';
import { databaseFile } from '../../store/paths';
import { answersFor, answerTo, type Question } from './answers';

const answers = answersFor(connect(databaseFile()));

parentPort?.on('message', (question: Question) => parentPort?.postMessage(answerTo(answers, question)));
