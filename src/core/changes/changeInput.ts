import { pagePath } from '../address/address';
import { isoDay } from '../calendar/day';
import type { Change, NewChangeInput } from '../model/change';
import { isMade } from '../model/steps';

/** What a stored change says, as it is given when it is logged. Which opening it was for is not among it. */
export function changeInputOf(change: Change): NewChangeInput {
  const { title, kind, queries, tags, oldText, newText, expectation } = change;
  const { person, link, note, windowDays, settlingDays, followsId } = change;
  return {
    ...{ title, kind, day: isoDay(change.day), pages: change.pages.map((page) => pagePath(page.address)) },
    ...{ queries: [...queries], tags: [...tags], oldText, newText },
    parts: change.parts.map((part) => ({
      ...{ kind: part.kind, page: part.page && pagePath(part.page.address) },
      ...{ oldText: part.oldText, newText: part.newText },
    })),
    expectation: expectation && {
      ...expectation,
      reviewDay: expectation.reviewDay === null ? null : isoDay(expectation.reviewDay),
    },
    ...{ person, link, note, windowDays, settlingDays, followsId, opening: null },
    planned: !isMade(change),
  };
}
