import * as questions from '@/jobs/questions/ask';
import { whoIs, type Who } from '@/jobs/questions/generation';
import type { QuestionName, Questions } from '@/jobs/questions/question';
import { anyAccount } from '@/store/access/people';
import { auditContext } from '@/store/acting';
import { database } from '@/store/database';
import { askerNow } from './asker';

/* Questions about figures, put for whoever asks for a screen, an action or an answer of the interface. */

async function whoAsks(): Promise<Who> {
  const who = whoIs(auditContext()?.asker ?? (await askerNow()));
  // The server itself, which gets screens ready at the start, is alone only where nobody has an account.
  return who === null && anyAccount(database()) ? 'nobody' : who;
}

/** Asks one of the questions of `jobs/questions/answers/`. */
export async function ask<K extends QuestionName>(
  name: K,
  asked: Questions[K]['asked'],
): Promise<Questions[K]['answer']> {
  return questions.ask(name, asked, await whoAsks());
}

/** The scorebook of one site or of several together. */
export async function askScorebook(...[siteIds, by]: Parameters<typeof questions.askScorebook>) {
  return questions.askScorebook(siteIds, by, await whoAsks());
}

/** The readings of all changes of a site, some at a time. */
export async function* askReadings(...[siteId, wish]: Parameters<typeof questions.askReadings>) {
  yield* questions.askReadings(siteId, wish, await whoAsks());
}
