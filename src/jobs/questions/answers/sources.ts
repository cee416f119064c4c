/* What all questions are answered from, kept from one to the next. */

import type { Day } from '../../../core/calendar/day';
import type { FitMode } from '../../../core/effect/incrementalFit';
import { Lists } from '../../../services/lists/lists';
import { Engines } from '../../../services/site/engines';
import { OpeningsKept } from '../../../services/openings/kept';
import { Findings } from '../../../services/pages/findings';
import { StaleDataError } from '../../../services/site/learning';
import { Links } from '../../../services/pages/links';
import { Wordings } from '../../../services/wording/wordings';
import { QueryPages } from '../../../services/figures/queryPages';
import type { Tell } from '../../../services/site/turns';
import { Contexts } from '../../../services/site/contexts';
import { Shifts } from '../../../services/figures/shifts';
import { Books } from '../../../services/scorebook/books';
import type { Db } from '../../../store/database';
import type { AnswerMode } from '../generation';

/** What an answer depends on besides the question: all of it may be left out. */
export type Surroundings = {
  readonly tell?: Tell;
  /** Told where there are changes to learn from that were not known. */
  readonly outdated?: () => void;
  /** Holds the figures of a site as they are shown. */
  readonly hold?: (siteId: number) => void;
  /** How the question is answered that is being put. */
  readonly manner?: () => AnswerMode;
  /** How it is learned what is not known. */
  readonly pace?: FitMode;
};

/** Learned where it is asked, from everything as it stands. */
const HERE: AnswerMode = { learning: 'here', behind: false };

export type AnswerSources = ReturnType<typeof answerSources>;

/** What the answers of a thread share: engines, lists and all that is worked out once. */
export function answerSources(
  db: Db,
  { tell = () => undefined, outdated, manner, pace }: Omit<Surroundings, 'hold'>,
) {
  const engines = new Engines(db, outdated, pace);
  const findings = new Findings();
  const links = new Links();
  const lists = new Lists(engines, findings, tell);
  const queryPages = new QueryPages(engines);
  const books = new Books(engines);
  const wordings = new Wordings({ engines, lists, links });
  const shifts = new Shifts(engines, queryPages);
  const openings = new OpeningsKept({ engines, lists, shifts, findings, links, books, tell });
  const contexts = new Contexts(db);
  /** The context of a question, settled when it is put. `until` is a day up to which it asks for figures. */
  const contextOf = (siteId: number, asOf?: Day | null, until?: Day | null) => {
    const { learning, behind } = manner?.() ?? HERE;
    const context = contexts.of(siteId, asOf ?? null, learning);
    // Days that are not shown yet would look like days without figures.
    if (behind && until != null && until > (context?.lastReadable ?? until)) throw new StaleDataError();
    return context;
  };
  return { db, engines, links, lists, queryPages, books, wordings, shifts, openings, contextOf };
}
