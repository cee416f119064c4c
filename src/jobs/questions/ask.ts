import type { Reading } from '../../core/reading/model';
import type { Progress } from '../../services/turns';
import type { SpanWish } from '../../services/spans';
import { startThread } from '../thread';
import type { QuestionName, Questions } from './answers';
import { QuestionThread } from './thread';

// One thread a process, wherever this module is loaded from.
const shared = globalThis as { __tallyQuestions?: QuestionThread };

/** Short-lived arrays hang on objects of this room; a small one lets them go soon. */
const YOUNG_MEGABYTES = 12;

/** Asks the thread that stays one of the questions of `answers.ts`. */
export function ask<K extends QuestionName>(
  name: K,
  asked: Questions[K]['asked'],
): Promise<Questions[K]['answer']> {
  shared.__tallyQuestions ??= new QuestionThread(() =>
    startThread('questionsWorker', { resourceLimits: { maxYoungGenerationSizeMb: YOUNG_MEGABYTES } }),
  );
  return shared.__tallyQuestions.ask(name, asked);
}

/** What somebody waits for on a site, and how far it has come; null where nothing is under way. */
export function underWay(siteId: number): Progress | null {
  return shared.__tallyQuestions?.underWay(siteId) ?? null;
}

/** So many readings cross from one thread to the other at a time: few enough that others get their turn in between. */
const AT_ONCE = 100;

/**
 * The readings of all changes of a site, newest change first, some at a time, without what only single readings have. They
 * are those of the moment in which the list was begun, whatever is edited meanwhile.
 */
export async function* askReadings(
  siteId: number,
  wish: SpanWish = {},
  asking: typeof ask = ask,
): AsyncGenerator<readonly Reading[]> {
  const list = await asking('beginList', { siteId, wish });
  try {
    for (let from = 0, more = true; more; from += AT_ONCE) {
      const part = await asking('partOfList', { list, from, to: from + AT_ONCE });
      more = part.more;
      yield part.readings;
    }
  } finally {
    await asking('endList', { list });
  }
}
