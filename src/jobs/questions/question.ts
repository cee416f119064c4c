/* What goes into the thread that stays, and what comes out of it. */

import { NotFittedError } from '../../core/effect/incrementalFit';
import { StaleDataError } from '../../services/site/learning';
import type { Progress } from '../../services/site/turns';
import type { Who } from './generation';
import type { answersFor } from './answers';

type Answers = ReturnType<typeof answersFor>;

/** What is asked and answered under each name. */
export type Questions = {
  [K in keyof Answers]: { asked: Parameters<Answers[K]>[0]; answer: Awaited<ReturnType<Answers[K]>> };
};
export type QuestionName = keyof Questions;

/** A question under a number, and its answer under the same. */
export type Question<K extends QuestionName = QuestionName> = {
  [N in K]: {
    readonly number: number;
    readonly name: N;
    readonly asked: Questions[N]['asked'];
    readonly who: Who;
  };
}[K];
export type Answer = { readonly number: number } & (
  | { readonly answer: Questions[QuestionName]['answer'] }
  | { readonly failure: string }
  /** It has to wait for the next generation. */
  | { readonly behind: true }
);
/** What comes out of the thread: answers, how far something has come, and that a next generation is wanted. */
export type Message = Answer | { readonly progress: Progress } | { readonly outdated: Outdated };
/** What a next generation is wanted for. */
export type Outdated = 'figures' | 'changes';

type Handlers = {
  [K in QuestionName]: (
    asked: Questions[K]['asked'],
  ) => Questions[K]['answer'] | Promise<Questions[K]['answer']>;
};

/** What is answered where something went wrong. */
export function failed(number: number, error: unknown): Answer {
  if (error instanceof StaleDataError) return { number, behind: true };
  return { number, failure: error instanceof Error ? (error.stack ?? error.message) : String(error) };
}

/** Answers a question; what goes wrong is answered too. Throws NotFittedError. */
export async function answerTo<K extends QuestionName>(
  answers: Handlers,
  { number, name, asked }: Pick<Question<K>, 'number' | 'name' | 'asked'>,
): Promise<Answer> {
  try {
    return { number, answer: await answers[name](asked) };
  } catch (error) {
    if (error instanceof NotFittedError) throw error;
    return failed(number, error);
  }
}
