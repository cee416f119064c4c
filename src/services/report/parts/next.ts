import { isoDay } from '../../../core/calendar/day';
import { changeKindName } from '../../../core/model/change';
import { isMade } from '../../../core/model/steps';
import { mediumDay, plural } from '../../../core/words/format';
import { showsPages, pagesText, cell, columns, type Work, type Said } from '../reportContext';

export function next(work: Work): Said {
  const { context, scope } = work;
  const pages = scope.pageIds && new Set(scope.pageIds);
  const planned = context.changes.filter(
    (change) => !isMade(change) && (pages === null || change.pages.some(({ id }) => pages.has(id))),
  );
  if (planned.length === 0) return { sentences: ['Nothing is planned.'] };
  return {
    sentences: [`${plural(planned.length, 'change')} ${planned.length === 1 ? 'is' : 'are'} planned.`],
    tables: [
      {
        title: 'Planned',
        columns: columns(['change'], ['kind'], ['pages'], ['for']),
        rows: planned
          .toSorted((a, b) => a.day - b.day)
          .map((change) => [
            cell(showsPages(work) ? change.title : changeKindName(change.kind), change.id),
            cell(changeKindName(change.kind), change.kind),
            cell(pagesText(work, change.pages), change.pages.length),
            cell(mediumDay(change.day), isoDay(change.day)),
          ]),
      },
    ],
  };
}
