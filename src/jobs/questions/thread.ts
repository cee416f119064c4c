import type { Progress } from '../../services/site/turns';
import type { Message, Outdated, QuestionName, Questions } from './question';
import type { Who } from './generation';

/** What is needed of a thread: messages both ways, to end it, and to be told when it is gone. A `Worker` is one. */
export interface ThreadLike {
  postMessage(message: unknown): void;
  unref(): void;
  terminate(): unknown;
  on(event: 'message', listener: (message: Message) => void): unknown;
  once(event: 'error', listener: (error: Error) => void): unknown;
  once(event: 'exit', listener: (code: number) => void): unknown;
}

/** In place of an answer: it has to wait for the next generation. */
export const BEHIND = Symbol('behind');

type Answered = Questions[QuestionName]['answer'] | typeof BEHIND;
type Waiting = { resolve(answer: Answered): void; reject(error: Error): void };

/**
 * A thread that answers questions about the figures of a site. It keeps them in memory from one question to the next, and
 * however long it takes, the server goes on answering. It is started at the first question, and again at the next one
 * after it has died.
 */
export class QuestionThread {
  private thread: ThreadLike | null = null;
  private number = 0;
  private readonly waiting = new Map<number, Waiting>();
  /** So many are in the middle of something that only this thread knows. */
  private held = 0;
  private retired = false;
  /** What is under way, as it was last told. */
  underWay: Progress | null = null;

  /** `outdated` is told when a next generation is wanted. */
  constructor(
    private readonly start: () => ThreadLike,
    private readonly outdated: (by: Outdated) => void = () => undefined,
  ) {}

  /**
   * Asks a question for somebody. BEHIND where the answer has to wait for the next generation. Rejects where answering it went wrong, or
   * the thread ended before it had answered.
   */
  ask<K extends QuestionName>(
    name: K,
    asked: Questions[K]['asked'],
    who: Who = null,
  ): Promise<Questions[K]['answer'] | typeof BEHIND> {
    const thread = (this.thread ??= this.started());
    const number = ++this.number;
    return new Promise((resolve, reject) => {
      const settle = (answer: Questions[K]['answer'] | typeof BEHIND) => resolve(answer);
      this.waiting.set(number, { resolve: settle, reject });
      thread.postMessage({ number, name, asked, who });
    });
  }

  /** Keeps the thread from being ended, for further questions about what only it knows, until it is let go again. */
  hold(): void {
    this.held += 1;
  }

  letGo(): void {
    this.held -= 1;
    this.endIfDone();
  }

  /** Ends the thread as soon as nobody waits for anything of it. */
  retire(): void {
    this.retired = true;
    this.endIfDone();
  }

  private endIfDone(): void {
    if (!this.retired || this.held > 0 || this.waiting.size > 0) return;
    const { thread } = this;
    this.thread = null;
    void thread?.terminate();
  }

  private settle(message: Extract<Message, { number: number }>): void {
    const one = this.waiting.get(message.number);
    this.waiting.delete(message.number);
    if ('failure' in message) one?.reject(new Error(message.failure));
    else one?.resolve('behind' in message ? BEHIND : message.answer);
    this.endIfDone();
  }

  private started(): ThreadLike {
    const thread = this.start();
    thread.on('message', (message) => {
      if ('progress' in message)
        this.underWay = message.progress.done < message.progress.of ? message.progress : null;
      else if ('outdated' in message) this.outdated(message.outdated);
      else this.settle(message);
    });
    const gone = (error: Error) => {
      if (this.thread !== thread) return;
      this.thread = null;
      for (const one of this.waiting.values()) one.reject(error);
      this.waiting.clear();
      this.underWay = null;
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
