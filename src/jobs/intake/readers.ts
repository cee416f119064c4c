import type { TransferListItem, Worker } from 'node:worker_threads';
import {
  sortAndPack,
  type AddressedRows,
  type LaidOut,
  type PeriodStart,
} from '../../core/facts/sortAndPack';
import { UnsettledDates } from '../../core/intake/rowReader';
import { startThread } from '../thread';
import { BlockReader, type ReadBlock, type ReadingPlan } from './rows';
import type { Block } from './text';
import type { ThreadTask } from './thread';

/** Tasks that a thread has in hand, so that it never stands idle. */
const AHEAD = 2;

/** A block that was read, and which of the readers read it: each numbers texts in its own way. */
export type ReadBy = { readonly reader: number; readonly block: ReadBlock };

/** The parts of an import that need no database. Results keep the order of their input. */
export interface Readers {
  /** Throws UnsettledDates. */
  read(blocks: AsyncIterable<Block>): AsyncGenerator<ReadBy>;
  sortAndPack(groups: Iterable<AddressedRows>, period: PeriodStart): AsyncGenerator<LaidOut[]>;
  end(): Promise<void>;
}

/**
 * Readers for a file: threads, or (none) this one, for files that are done before a thread starts.
 */
export function readersFor(plan: ReadingPlan, threads: number): Readers {
  return threads === 0 ? new ReaderHere(plan) : new ReaderThreads(plan, threads);
}

class ReaderHere implements Readers {
  private readonly reader: BlockReader;

  constructor(plan: ReadingPlan) {
    this.reader = new BlockReader(plan);
  }

  async *read(blocks: AsyncIterable<Block>): AsyncGenerator<ReadBy> {
    for await (const block of blocks) yield { reader: 0, block: this.reader.read(block) };
  }

  async *sortAndPack(groups: Iterable<AddressedRows>, period: PeriodStart): AsyncGenerator<LaidOut[]> {
    for (const rows of groups) yield sortAndPack(rows, period);
  }

  async end(): Promise<void> {}
}

class ReaderThreads implements Readers {
  private readonly threads: Thread[];

  constructor(plan: ReadingPlan, threads: number) {
    this.threads = Array.from({ length: threads }, () => new Thread(plan));
  }

  async *read(blocks: AsyncIterable<Block>): AsyncGenerator<ReadBy> {
    const send = (thread: Thread, block: Block) =>
      thread.ask<ReadBlock>({ read: block }, [block.bytes.buffer as ArrayBuffer]);
    for await (const { by, answer } of this.inTurn(blocks, send)) yield { reader: by, block: answer };
  }

  async *sortAndPack(groups: Iterable<AddressedRows>, period: PeriodStart): AsyncGenerator<LaidOut[]> {
    const send = (thread: Thread, rows: AddressedRows) => {
      const { query, day, device, country, values, address, part } = rows;
      const columns = [query, day, device, country, ...values, address, part];
      return thread.ask<LaidOut[]>(
        { sortAndPack: rows, period },
        columns.map(({ buffer }) => buffer as ArrayBuffer),
      );
    };
    for await (const { answer } of this.inTurn(groups, send)) yield answer;
  }

  async end(): Promise<void> {
    await Promise.all(this.threads.map((thread) => thread.end()));
  }

  /**
   * Passes items to threads in turn and yields answers in order; memory holds only items in
   * progress.
   */
  private async *inTurn<T, A>(
    things: AsyncIterable<T> | Iterable<T>,
    send: (thread: Thread, thing: T) => Promise<A>,
  ): AsyncGenerator<{ by: number; answer: A }> {
    const inHand: { by: number; answer: Promise<A> }[] = [];
    const first = async () => {
      const { by, answer } = inHand.shift()!;
      return { by, answer: await answer };
    };
    let next = 0;
    let failure: unknown = null;
    try {
      for await (const thing of things) {
        const by = next++ % this.threads.length;
        inHand.push({ by, answer: send(this.threads[by]!, thing) });
        if (inHand.length >= this.threads.length * AHEAD) yield await first();
      }
    } catch (error) {
      failure = error;
    }
    // What came before a fault is given all the same: by it the fault is found in the file.
    while (inHand.length > 0) yield await first();
    if (failure !== null) throw failure;
  }
}

class Thread {
  private readonly worker: Worker;
  private readonly waiting: { resolve: (answer: never) => void; reject: (error: unknown) => void }[] = [];

  constructor(plan: ReadingPlan) {
    this.worker = startThread('readerThread', {
      workerData: plan,
      resourceLimits: { maxOldGenerationSizeMb: 512, maxYoungGenerationSizeMb: 4 },
    });
    this.worker.on('message', (answer) => {
      const one = this.waiting.shift();
      if (answer === 'unsettled') one?.reject(new UnsettledDates());
      else one?.resolve(answer as never);
    });
    this.worker.on('error', (error) => this.fail(error));
    this.worker.on('exit', () => this.fail(new Error('A thread that reads the file ended too early.')));
  }

  ask<A>(task: ThreadTask, transfer: TransferListItem[]): Promise<A> {
    const answer = new Promise<A>((resolve, reject) => this.waiting.push({ resolve, reject }));
    // Whoever waits for an earlier answer may never come to this one.
    answer.catch(() => null);
    this.worker.postMessage(task, transfer);
    return answer;
  }

  async end(): Promise<void> {
    this.waiting.length = 0;
    await this.worker.terminate();
  }

  private fail(error: unknown): void {
    for (const { reject } of this.waiting.splice(0)) reject(error);
  }
}
