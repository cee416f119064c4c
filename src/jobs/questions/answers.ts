import { listRequest } from '../../services/lists/fromQuery';
import { saveCompletedVerdicts } from '../../services/reading/completedVerdicts';
import { readChanges } from '../../services/reading/readChanges';
import { yieldToEventLoop } from '../../services/site/turns';
import { LIST_SUBJECTS } from '../../core/lists/columns';
import { listQuerySchema } from '../../core/lists/wish';
import type { Db } from '../../store/database';
import { changeAnswers } from './answers/changes';
import { figureAnswers } from './answers/figures';
import { openingAnswers } from './answers/openings';
import { roundAnswers } from './answers/rounds';
import { reportAnswers } from './answers/reports';
import { answerSources, type Surroundings } from './answers/sources';
import type { OfSite } from './ofSite';

/**
 * All that can be asked of the thread that stays, by name: what is given and what is answered. Both sides take their types
 * from here, so a new question is one more function in the file of its subject. Answers are small: what crosses threads is copied on both sides.
 */
export function answersFor(db: Db, { hold, ...surroundings }: Surroundings = {}) {
  const sources = answerSources(db, surroundings);
  const { engines, lists, books, openings, contextOf } = sources;
  return {
    ...changeAnswers(sources),
    ...figureAnswers(sources),
    ...openingAnswers(sources),
    ...roundAnswers(sources),
    ...reportAnswers(sources),

    /** Holds the figures as they are shown, just before others count. */
    hold: ({ siteId }: OfSite): boolean => {
      hold?.(siteId);
      return true;
    },

    /** Works out all that most screens need, so that whoever asks first does not wait for it. */
    prepare: async ({ siteId }: OfSite): Promise<boolean> => {
      const context = contextOf(siteId);
      if (!context) return false;
      books.of(context);
      const { known, site } = context;
      const engine = known && engines.engine(site, known);
      // Changes that are logged by and by are read over some whole weeks, then over all of their days.
      for (let days = 7; days <= site.windowDays; days += 7) {
        await yieldToEventLoop();
        engine?.learn({ settlingDays: site.settlingDays, days }, { looks: days === site.windowDays });
      }
      for (const subject of LIST_SUBJECTS) {
        await yieldToEventLoop();
        const wish = listRequest(context, subject, listQuerySchema.parse({}));
        if (wish && typeof wish !== 'string') lists.list(context, wish);
      }
      await openings.part(context, { span: null, kind: null, pageId: null, from: 0, limit: 1 });
      await saveCompletedVerdicts(context, readChanges(context, engines));
      return true;
    },

    /** Saves the verdicts of changes whose after spans have ended, once figures have arrived. */
    saveVerdicts: async ({ siteId }: OfSite): Promise<boolean> => {
      const context = contextOf(siteId);
      if (context) await saveCompletedVerdicts(context, readChanges(context, engines));
      return true;
    },
  };
}
