import type { Progress } from '../../services/turns';
import type { Message, QuestionName, Questions } from './answers';

/** What is needed of a thread: messages both ways, and to be told when it is gone. A `Worker` is one. */
export interface ThreadLike {
  postMessage(message: unknown): void;
  unref(): void;
  on(event: 'message', listener: (message: Message) => void): unknown;
  once(event: 'error', listener: (error: Error) => void): unknown;
  once(event: 'exit', listener: (code: number) => void): unknown;
}

type Waiting = { resolve(answer: Questions[QuestionName]['answer']): void; reject(error: Error): void };

/**
 * The one thread of this process that answers questions about figures. It keeps the figures of a site in memory from one
 * question to the next, and however long it takes, the server goes on answering. It is started at the first question, and
 * again at the next one after it has died.
 */
export class QuestionThread {
  private thread: ThreadLike | null = null;
  private number = 0;
  private readonly waiting = new Map<number, Waiting>();
  /** What is under way for each site, as it was last told. */
  private readonly progress = new Map<number, Progress>();

  constructor(private readonly start: () => ThreadLike) {}

  /** Asks a question. Rejects where answering it went wrong, or the thread ended before it had answered. */
  ask<K extends QuestionName>(name: K, asked: Questions[K]['asked']): Promise<Questions[K]['answer']> {
    const thread = (this.thread ??= this.started());
    const number = ++this.number;
    return new Promise<Questions[K]['answer']>((resolve, reject) => {
      const settle = (answer: Questions[K]['answer']) => resolve(answer);
      this.waiting.set(number, { resolve: settle, reject });
      thread.postMessage({ number, name, asked });
    });
  }

  /** What somebody waits for on a site; null where nothing is under way. */
  underWay(siteId: number): Progress | null {
    return this.progress.get(siteId) ?? null;
  }

  private told(progress: Progress): void {
    if (progress.done < progress.of) this.progress.set(progress.siteId, progress);
    else this.progress.delete(progress.siteId);
  }

  private started(): ThreadLike {
    const thread = this.start();
    thread.on('message', (message) => {
      if ('progress' in message) return this.told(message.progress);
      const answer = message;
      const one = this.waiting.get(answer.number);
      this.waiting.delete(answer.number);
      if ('failure' in answer) one?.reject(new Error(answer.failure));
      else one?.resolve(answer.answer);
    });
    const gone = (error: Error) => {
      if (this.thread !== thread) return;
      this.thread = null;
      for (const one of this.waiting.values()) one.reject(error);
      this.waiting.clear();
      this.progress.clear();
    };
    thread.once('error', gone);
    thread.once('exit', (code) =>
      gone(new Error(`The thread that answers questions ended with code ${code}.`)),
    );
    // It must not keep the process alive once the server has closed.
    thread.unref();
    return thread;
  }
}
