import { pagePath } from '../address/address';
import { isoDay } from '../calendar/day';
import type { Change, NewChangeInput } from '../model/change';
import { plainValuesOf } from '../model/changeFields';
import { isMade } from '../model/steps';

/** What a stored change says, as it is given when it is logged. Which opening it was for is not among it. */
export function changeInputOf(change: Change): NewChangeInput {
  const { expectation, queries, tags } = change;
  return {
    ...plainValuesOf(change),
    ...{ day: isoDay(change.day), pages: change.pages.map((page) => pagePath(page.address)) },
    ...{ queries: [...queries], tags: [...tags], opening: null },
    parts: change.parts.map((part) => ({
      ...{ kind: part.kind, page: part.page && pagePath(part.page.address) },
      ...{ oldText: part.oldText, newText: part.newText },
    })),
    expectation: expectation && {
      ...expectation,
      reviewDay: expectation.reviewDay === null ? null : isoDay(expectation.reviewDay),
    },
    planned: !isMade(change),
  };
}
