import { parentPort } from 'node:worker_threads';
import { ledgerEntry } from '../core/reading/ledgerEntry';
import type { Change } from '../core/model/change';
import type { Reading } from '../core/reading/model';
import { movedAcross } from '../store/across';
import { findChange } from '../store/changes';
import { connect, databaseFile } from '../store/database';
import { pageChain } from '../store/pageChain';
import { Readers } from '../store/readers';
import {
  foresightOf,
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
  | { readonly ask: 'ledger'; readonly siteId: number }
  | { readonly ask: 'doubted-events'; readonly siteId: number }
  | { readonly ask: 'foresight'; readonly siteId: number; readonly thought: Change }
  | { readonly ask: 'chain'; readonly siteId: number; readonly pageId: number }
  | { readonly ask: 'across'; readonly siteId: number; readonly eventId: number }
  | {
      readonly ask: 'some';
      readonly siteId: number;
      readonly wish: SpanWish;
      readonly from: number;
      readonly to: number;
    };

/** A question under a number, and the answer under the same. */
export type Asked = { readonly number: number; readonly question: Question };
export type Answered = { readonly number: number } & (
  { readonly answer: unknown } | { readonly failure: string }
);

const db = connect(databaseFile());
const readers = new Readers(db);

function allReadings(siteId: number, wish: SpanWish = {}): Reading[] {
  const site = findSite(db, siteId);
  return site ? readingsOf(db, readers, site, wish) : [];
}

function doubtedEvents(siteId: number): Record<number, number> {
  const counts: Record<number, number> = {};
  for (const { cautions } of allReadings(siteId)) {
    for (const { eventId } of cautions) if (eventId !== null) counts[eventId] = (counts[eventId] ?? 0) + 1;
  }
  return counts;
}

/** Answers a question with something small: what crosses to the other thread is copied there and back. */
function answer(question: Question): unknown {
  switch (question.ask) {
    case 'some':
      return allReadings(question.siteId, question.wish).slice(question.from, question.to);
    case 'ledger':
      return allReadings(question.siteId).map(ledgerEntry);
    case 'doubted-events':
      return doubtedEvents(question.siteId);
    case 'foresight': {
      const site = findSite(db, question.siteId);
      return site && foresightOf(db, readers, site, question.thought);
    }
    case 'chain': {
      const site = findSite(db, question.siteId);
      return site && pageChain(db, readers, site, question.pageId);
    }
    case 'across': {
      const site = findSite(db, question.siteId);
      return site && movedAcross(db, readers, site, question.eventId);
    }
  }
  const change = findChange(db, question.changeId);
  const site = change && findSite(db, change.siteId);
  if (!change || !site) return null;
  const reading = readingOf(db, readers, site, change, question.wish);
  if (question.ask === 'one') return reading;
  return { reading, picture: pictureOf(db, readers, site, reading) } satisfies PicturedReading;
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
