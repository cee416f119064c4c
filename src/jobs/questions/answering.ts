import { AsyncLocalStorage } from 'node:async_hooks';
import { NotFittedError, type FitMode } from '../../core/effect/incrementalFit';
import { stepByStep } from '../../services/site/turns';
import type { Db } from '../../store/database';
import { inBackground } from '../priority';
import { answersFor } from './answers';
import { answerTo, failed, type Message, type Question } from './question';
import { Generation, type AnswerMode } from './generation';

/** How one question is answered, whatever is answered between its steps. */
type Mode = FitMode & { readonly manner: AnswerMode };
const AS_IT_STANDS: Mode = { manner: { learning: 'here', behind: false }, inSteps: true };

/** A question that needs more than is kept of what is learned would never be answered in steps. */
const MOST_LEARNED = 16;

/** A thread's side of the questions about a site: answers them from its generation of figures. */
export class Answering {
  private readonly generation: Generation;
  private readonly answers: ReturnType<typeof answersFor>;
  private readonly modes = new AsyncLocalStorage<Mode>();
  private asked = 0;

  /** `tell` is given what comes out of it. */
  constructor(
    db: Db,
    siteId: number,
    private readonly tell: (message: Message) => void,
  ) {
    this.generation = new Generation(db, siteId, () => tell({ outdated: 'figures' }));
    const mode = () => this.modes.getStore() ?? AS_IT_STANDS;
    this.answers = answersFor(db, {
      tell: (progress) => tell({ progress }),
      outdated: () => tell({ outdated: 'changes' }),
      hold: () => this.generation.hold(),
      manner: () => mode().manner,
      pace: {
        get inSteps() {
          return mode().inSteps;
        },
      },
    });
  }

  /** Answers a question, or says that it has to wait for the next generation. */
  async put(question: Question): Promise<void> {
    this.asked += 1;
    try {
      const answer = () => this.answered(question);
      this.tell(await (question.name === 'prepare' ? inBackground(answer) : answer()));
    } catch (error) {
      this.tell(failed(question.number, error));
    } finally {
      this.asked -= 1;
    }
  }

  /** Answers, as often as something is to be learned first; others get their turn meanwhile. */
  private async answered(question: Question): Promise<Message> {
    for (let learned = 0; ; learned++) {
      const manner = question.name === 'hold' ? AS_IT_STANDS.manner : this.generation.mannerFor(question.who);
      const mode: Mode = { manner, inSteps: learned < MOST_LEARNED };
      try {
        return await this.modes.run(mode, () => answerTo(this.answers, question));
      } catch (error) {
        if (!(error instanceof NotFittedError)) throw error;
        await stepByStep(error.steps());
      }
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
