import { isoDay } from '../../../core/calendar/day';
import { changeKindName } from '../../../core/model/change';
import { DECISIONS } from '../../../core/model/steps';
import { ROUND_DECISIONS } from '../../../core/model/round';
import { readingSentence } from '../../../core/reading/readingSentence';
import { turnSentence } from '../../../core/rounds/roundSentence';
import { ABSENT, count, mediumDay, plural } from '../../../core/words/format';
import { showsPages, countedBy, cell, columns, type Work, type Said } from '../reportContext';

export function learned(work: Work): Said {
  const { readings, turns, scope } = work;
  const decided = [
    ...readings.flatMap(({ change }) =>
      change.decision
        ? [
            {
              name: showsPages(work) ? change.title : changeKindName(change.kind),
              what: DECISIONS[change.decision.decision],
              reason: change.decision.reason,
              day: change.steps.decided ?? null,
            },
          ]
        : [],
    ),
    ...scope.rounds.flatMap(({ name, decision }) =>
      decision
        ? [{ name, what: ROUND_DECISIONS[decision.decision], reason: decision.reason, day: decision.day }]
        : [],
    ),
  ];
  const plain = [
    ...readings
      .filter(({ verdict }) => verdict === 'lifted' || verdict === 'dropped')
      .map(
        (reading) =>
          `${showsPages(work) ? `${reading.change.title}: ` : ''}${readingSentence(reading)
            .found.map(({ text }) => text)
            .join('')}`,
      ),
    ...turns
      .filter(({ turn }) => turn.movedIn !== null)
      .map(
        ({ round, turn }) =>
          `${round.name}: ${turnSentence(round.kind, turn)
            .found.map(({ text }) => text)
            .join('')}`,
      ),
  ];
  return {
    sentences: [
      decided.length === 0
        ? 'Nothing was decided in these days.'
        : `${plural(decided.length, 'decision')}: ${countedBy(decided.map(({ what }) => what))
            .map(([what, n]) => `${count(n)} ${what.toLowerCase()}`)
            .join(', ')}.`,
      ...plain,
    ],
    tables:
      decided.length === 0
        ? []
        : [
            {
              title: 'Decisions',
              columns: columns(['change'], ['decided'], ['why'], ['day']),
              rows: decided.map(({ name, what, reason, day }) => [
                cell(name),
                cell(what),
                cell(reason ?? ABSENT),
                cell(day === null ? ABSENT : mediumDay(day), day === null ? null : isoDay(day)),
              ]),
            },
          ],
  };
}
