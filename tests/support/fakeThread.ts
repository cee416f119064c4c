import { EventEmitter } from 'node:events';
import { Answering } from '@/jobs/questions/answering';
import type { Question } from '@/jobs/questions/question';
import type { ThreadLike } from '@/jobs/questions/thread';
import { connect, type Db } from '@/store/database';

/** A thread that answers on this one, a turn later and over a connection of its own, as the real one does. */
export class FakeThread extends EventEmitter implements ThreadLike {
  static readonly all: FakeThread[] = [];
  readonly asked: Question[] = [];
  private readonly db: Db;
  private readonly answering: Answering;
  ended = false;

  constructor(file: string, siteId: number) {
    super();
    FakeThread.all.push(this);
    this.db = connect(file);
    this.answering = new Answering(this.db, siteId, (message) => this.emit('message', message));
  }

  postMessage(question: Question): void {
    this.asked.push(question);
    setImmediate(() => void (this.ended || this.answering.put(question)));
  }

  /** What the real one does each second while nobody asks. */
  idle(): void {
    this.answering.idle();
  }

  unref(): void {}

  terminate(): void {
    if (this.ended) return;
    this.ended = true;
    this.answering.close();
    this.db.$client.close();
  }

  /** Ends all that were started. */
  static endAll(): void {
    for (const thread of FakeThread.all.splice(0)) thread.terminate();
  }
}
