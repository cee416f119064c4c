import { isoDay, type Day } from '../../../core/calendar/day';
import { changeKindName } from '../../../core/model/change';
import { isMade } from '../../../core/model/steps';
import { ROUND_STATE_NAMES, roundState } from '../../../core/rounds/state';
import { ABSENT, longDay, plural } from '../../../core/words/format';
import { showsPages, cell, columns, type Work, type Said } from '../reportContext';

export function waiting(work: Work): Said {
  const { context, readings, turns, scope } = work;
  const list: { name: string; until: Day | null }[] = [
    ...readings.flatMap(({ change, spans }) =>
      isMade(change) && !spans.complete
        ? [{ name: showsPages(work) ? change.title : changeKindName(change.kind), until: spans.completeOn }]
        : [],
    ),
    ...turns.flatMap(({ round, turn }) =>
      turn.complete ? [] : [{ name: `${round.name}, ${turn.half} half`, until: turn.completeOn }],
    ),
  ];
  const rounds = scope.rounds.filter((round) =>
    ['drawn', 'to-decide', 'to-go-on'].includes(
      roundState(round, context.today, context.site.provisionalDays),
    ),
  );
  if (list.length + rounds.length === 0) return { sentences: ['Nothing is being waited for.'] };
  return {
    sentences: [
      ...(list.length > 0
        ? [`${plural(list.length, 'reading')} ${list.length === 1 ? 'is' : 'are'} not over.`]
        : []),
      ...rounds.map(
        (round) =>
          `The round “${round.name}”: ${ROUND_STATE_NAMES[roundState(round, context.today, context.site.provisionalDays)]}.`,
      ),
    ],
    tables:
      list.length === 0
        ? []
        : [
            {
              title: 'Waiting',
              columns: columns(['change'], ['can be read on']),
              rows: list.map(({ name, until }) => [
                cell(name),
                cell(until === null ? ABSENT : longDay(until), until === null ? null : isoDay(until)),
              ]),
            },
          ],
  };
}
