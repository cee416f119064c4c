import type { Db } from '../../store/database';
import { inBackground } from '../priority';
import { answersFor, answerTo, failed, type Message, type Question } from './answers';
import { Generation, type Manner } from './generation';

/** A thread's side of the questions about a site: answers them from its generation of figures. */
export class Answering {
  private readonly generation: Generation;
  private readonly answers: ReturnType<typeof answersFor>;
  private manner: Manner = { learning: 'here', behind: false };
  private asked = 0;

  /** `tell` is given what comes out of it. */
  constructor(
    db: Db,
    siteId: number,
    private readonly tell: (message: Message) => void,
  ) {
    this.generation = new Generation(db, siteId, () => tell({ outdated: 'figures' }));
    this.answers = answersFor(db, {
      tell: (progress) => tell({ progress }),
      outdated: () => tell({ outdated: 'changes' }),
      hold: () => this.generation.hold(),
      manner: () => this.manner,
    });
  }

  /** Answers a question, or says that it has to wait for the next generation. */
  async put(question: Question): Promise<void> {
    this.asked += 1;
    try {
      if (question.name !== 'hold') this.manner = this.generation.mannerFor(question.who);
      const answer = () => answerTo(this.answers, question);
      this.tell(await (question.name === 'prepare' ? inBackground(answer) : answer()));
    } catch (error) {
      this.tell(failed(question.number, error));
    } finally {
      this.asked -= 1;
    }
  }

  /** Does what is better done while nobody asks. */
  idle(): void {
    if (this.asked === 0) this.generation.idle();
  }

  close(): void {
    this.generation.close();
  }
}
