import type { Worker } from 'node:worker_threads';
import type { Across } from '../core/reading/across';
import type { LedgerEntry } from '../core/reading/ledgerEntry';
import type { Change } from '../core/model/change';
import type { Reading } from '../core/reading/model';
import type { PageChain } from '../core/reading/pageChain';
import type { ReadingWish, SpanWish } from '../store/readings';
import { startThread } from './thread';
import type { Answered, Asked, PicturedReading, Question } from './readingsWorker';

type Waiting = { resolve: (answer: unknown) => void; reject: (error: Error) => void };

/**
 * The one thread of this process that reads. It keeps the figures of a site in memory from one question to the next,
 * and however long it reads, the server goes on answering.
 */
class ReadingThread {
  private worker: Worker | null = null;
  private number = 0;
  private readonly waiting = new Map<number, Waiting>();

  ask(question: Question): Promise<unknown> {
    const worker = (this.worker ??= this.start());
    const number = ++this.number;
    return new Promise((resolve, reject) => {
      this.waiting.set(number, { resolve, reject });
      worker.postMessage({ number, question } satisfies Asked);
    });
  }

  private start(): Worker {
    const worker = startThread('readingsWorker', {});
    worker.on('message', (answered: Answered) => {
      const one = this.waiting.get(answered.number);
      this.waiting.delete(answered.number);
      if ('failure' in answered) one?.reject(new Error(answered.failure));
      else one?.resolve(answered.answer);
    });
    const gone = (error: Error) => {
      if (this.worker === worker) this.worker = null;
      for (const one of this.waiting.values()) one.reject(error);
      this.waiting.clear();
    };
    worker.once('error', gone);
    worker.once('exit', (code) => gone(new Error(`The thread that reads ended with code ${code}.`)));
    // It must not keep the process alive once the server has closed.
    worker.unref();
    return worker;
  }
}

// One thread a process, wherever this module is loaded from.
const shared = globalThis as { __tallyReadings?: ReadingThread };

function ask(question: Question): Promise<unknown> {
  shared.__tallyReadings ??= new ReadingThread();
  return shared.__tallyReadings.ask(question);
}

/** The reading of one change, or null where it is gone. */
export function askReading(changeId: number, wish: ReadingWish = {}): Promise<Reading | null> {
  return ask({ ask: 'one', changeId, wish }) as Promise<Reading | null>;
}

/** The reading of one change with what its picture shows, or null where it is gone. */
export function askPicturedReading(changeId: number, wish: ReadingWish): Promise<PicturedReading | null> {
  return ask({ ask: 'pictured', changeId, wish }) as Promise<PicturedReading | null>;
}

/** So many readings cross from one thread to the other at a time: few enough that others get their turn in between. */
const AT_ONCE = 100;

/** The readings of all changes of a site, newest change first, some at a time, without what only single readings have. */
export async function* askReadings(siteId: number, wish: SpanWish = {}): AsyncGenerator<Reading[]> {
  for (let from = 0; ; from += AT_ONCE) {
    const question = { ask: 'some', siteId, wish, from, to: from + AT_ONCE } as const;
    const some = (await ask(question)) as Reading[];
    yield some;
    if (some.length < AT_ONCE) return;
  }
}

/** The lines of the ledger of a site, newest change first. */
export function askLedger(siteId: number): Promise<LedgerEntry[]> {
  return ask({ ask: 'ledger', siteId }) as Promise<LedgerEntry[]>;
}

/** By id of an event, how many readings of the site have a doubt because of it. */
export function askDoubtedEvents(siteId: number): Promise<Record<number, number>> {
  return ask({ ask: 'doubted-events', siteId }) as Promise<Record<number, number>>;
}

/** Who moved across an event, or null where there is no such event. */
export function askAcross(siteId: number, eventId: number): Promise<Across | null> {
  return ask({ ask: 'across', siteId, eventId }) as Promise<Across | null>;
}

/** The changes of a page, each against its own spans; null where there is no such site. */
export function askChain(siteId: number, pageId: number): Promise<PageChain | null> {
  return ask({ ask: 'chain', siteId, pageId }) as Promise<PageChain | null>;
}

/** Whether the pages of a change that is only thought of could show what is expected of it by its review; null where nothing is. */
export function askForesight(siteId: number, thought: Change): Promise<string | null> {
  return ask({ ask: 'foresight', siteId, thought }) as Promise<string | null>;
}
