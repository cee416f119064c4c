import { parentPort } from 'node:worker_threads';
import type { Reading } from '../core/reading/model';
import { findChange } from '../store/changes';
import { connect, databaseFile } from '../store/database';
import { Readers } from '../store/readers';
import {
  pictureOf,
  readingOf,
  readingsOf,
  type ReadingPicture,
  type ReadingWish,
  type SpanWish,
} from '../store/readings';
import { findSite } from '../store/sites';

/** A reading and what its picture shows. */
export type PicturedReading = { readonly reading: Reading; readonly picture: ReadingPicture };

/** What can be asked of the worker that reads. */
export type Question =
  | { readonly ask: 'one'; readonly changeId: number; readonly wish: ReadingWish }
  | { readonly ask: 'pictured'; readonly changeId: number; readonly wish: ReadingWish }
  | { readonly ask: 'all'; readonly siteId: number; readonly wish: SpanWish };

/** A question under a number, and the answer under the same. */
export type Asked = { readonly number: number; readonly question: Question };
export type Answered = { readonly number: number } & (
  { readonly answer: unknown } | { readonly failure: string }
);

const db = connect(databaseFile());
const readers = new Readers(db);

function answer(question: Question): Reading | PicturedReading | Reading[] | null {
  if (question.ask === 'all') {
    const site = findSite(db, question.siteId);
    return site ? readingsOf(db, readers, site, question.wish) : [];
  }
  const change = findChange(db, question.changeId);
  const site = change && findSite(db, change.siteId);
  if (!change || !site) return null;
  const reading = readingOf(db, readers, site, change, question.wish);
  return question.ask === 'one' ? reading : { reading, picture: pictureOf(db, readers, site, reading) };
}

parentPort?.on('message', ({ number, question }: Asked) => {
  let answered: Answered;
  try {
    answered = { number, answer: answer(question) };
  } catch (error) {
    answered = { number, failure: error instanceof Error ? (error.stack ?? error.message) : String(error) };
  }
  parentPort?.postMessage(answered);
});
