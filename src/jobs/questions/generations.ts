import { setTimeout as pause } from 'node:timers/promises';
import type { Progress } from '../../services/site/turns';
import type { QuestionName, Questions } from './question';
import type { Who } from './generation';
import { BEHIND, QuestionThread, type ThreadLike } from './thread';

/**
 * So often a question waits for a next generation; after that it is answered from everything as it stands, however long that
 * takes.
 */
const MOST_WAITS = 3;
/** The machine rests so many times as long as it learned. */
const RESTS = 5;

/**
 * The threads that answer for a site: the one that does, and while other figures are worked in, the one that is going to. A
 * generation is prepared out of the way of everybody's questions, and then takes the place of the one before it.
 */
export class Generations {
  private current = this.newThread();
  private coming: QuestionThread | null = null;
  private following: Promise<void> | null = null;
  private rest = new AbortController();
  private tookMs = 0;
  /** Whether newer figures came in than those that are shown. */
  behind = false;

  /** `inTurn` runs what takes long when nothing else of its kind runs. */
  constructor(
    private readonly siteId: number,
    private readonly start: (siteId: number) => ThreadLike,
    private readonly inTurn: (work: () => Promise<void>) => Promise<void>,
  ) {}

  /** Asks a question for somebody, who waits for the next generation where they have to see what this one does not show. */
  async ask<K extends QuestionName>(
    name: K,
    asked: Questions[K]['asked'],
    who: Who,
  ): Promise<Questions[K]['answer']> {
    const { answer, thread } = await this.askAndHold(name, asked, who);
    thread.letGo();
    return answer;
  }

  /** The same, with the thread that answered, for further questions about what only it knows. It has to be let go. */
  async askAndHold<K extends QuestionName>(
    name: K,
    asked: Questions[K]['asked'],
    who: Who,
  ): Promise<{ readonly answer: Questions[K]['answer']; readonly thread: QuestionThread }> {
    for (let waits = 0; ; waits++) {
      const thread = this.current;
      thread.hold();
      try {
        const answer = await thread.ask(name, asked, waits < MOST_WAITS ? who : null);
        if (answer !== BEHIND) return { answer, thread };
      } catch (error) {
        thread.letGo();
        throw error;
      }
      thread.letGo();
      if (thread === this.current) await this.follow({ rests: false });
    }
  }

  /** Has what is shown kept as it is: other figures are about to count. */
  async hold(): Promise<void> {
    const asked = { siteId: this.siteId };
    await Promise.all([this.current, this.coming].map((thread) => thread?.ask('hold', asked, 'nobody')));
  }

  /** How far that has come which somebody may wait for. */
  get underWay(): Progress | null {
    return this.current.underWay ?? this.coming?.underWay ?? null;
  }

  /** Ends all threads of the site once nobody waits for anything of them. */
  end(): void {
    this.ended = true;
    this.current.retire();
  }
  private ended = false;

  private newThread(): QuestionThread {
    const thread: QuestionThread = new QuestionThread(
      () => this.start(this.siteId),
      (by) => {
        if (thread !== this.current) return;
        if (by === 'figures') this.behind = true;
        void this.follow({ rests: by === 'changes' });
      },
    );
    return thread;
  }

  /**
   * Prepares the next generation, unless that is under way already. Where one change is written down late after another, each gives
   * something new to learn: in between, the machine rests for some times as long as the last took, unless somebody waits.
   */
  private follow({ rests }: { rests: boolean }): Promise<void> {
    if (!rests) this.rest.abort();
    this.following ??= this.prepareNext().finally(() => {
      this.following = null;
      this.rest = new AbortController();
    });
    return this.following;
  }

  private async prepareNext(): Promise<void> {
    await pause(RESTS * this.tookMs, undefined, { ref: false, signal: this.rest.signal }).catch(
      () => undefined,
    );
    await this.inTurn(async () => {
      const begun = performance.now();
      const next = (this.coming = this.newThread());
      try {
        await next.ask('prepare', { siteId: this.siteId }, 'nobody');
      } catch (error) {
        next.retire();
        // Who waits asks again, and is answered from what there is.
        console.error('Newer figures of a site could not be worked in:', error);
        return;
      } finally {
        this.coming = null;
      }
      this.tookMs = performance.now() - begun;
      const before = this.current;
      this.current = next;
      this.behind = false;
      before.retire();
      // The site may have made room for another meanwhile.
      if (this.ended) next.retire();
    });
  }
}
