import { scoreLines } from '../../../core/scorebook/scorebook';
import { lineSentence } from '../../../core/scorebook/scorebookSentence';
import { ABSENT, boundPercent, count, netPercent, plural } from '../../../core/words/format';
import { cell, columns, type Work, type Said } from '../reportContext';

export function together({ context, tools: { books }, readings, turns }: Work): Said {
  const changes = new Set(readings.map(({ change }) => change.id));
  const rounds = new Set(turns.map(({ round }) => round.id));
  const scored = books
    .of(context)
    .scored.filter(
      ({ changeId, roundId }) =>
        (changeId !== null && changes.has(changeId)) || (roundId !== null && rounds.has(roundId)),
    );
  if (scored.length === 0)
    return { sentences: ['Nothing of it was read to its end yet, so nothing can be said of it together.'] };
  const lines = scoreLines(scored, 'kind');
  const thin = lines.filter(({ changes: n }) => n < 5).length;
  return {
    sentences: [
      lineSentence(lines[0]!.name, lines[0]!),
      ...(thin > 0
        ? [
            `Of ${thin === lines.length ? 'each kind' : plural(thin, 'kind')} there were fewer than five changes, which say little about the kind as a whole.`,
          ]
        : []),
    ],
    tables: [
      {
        title: 'By kind',
        columns: columns(
          ['kind'],
          ['read', true],
          ['lifted', true],
          ['dropped', true],
          ['held', true],
          ['unclear', true],
          ['on the whole', true],
          ['range, nine in ten', true],
          ['the next one', true],
        ),
        rows: lines.map(({ name, key, changes: n, lifted, dropped, held, unclear, pooled }) => [
          cell(name, key),
          ...[n, lifted, dropped, held, unclear].map((value) => cell(count(value), value)),
          cell(
            pooled ? `${netPercent(Math.exp(pooled.net))} ${pooled.measure}` : ABSENT,
            pooled && Math.exp(pooled.net),
          ),
          cell(
            pooled
              ? `${boundPercent(Math.exp(pooled.low))} to ${boundPercent(Math.exp(pooled.high))}`
              : ABSENT,
          ),
          cell(
            pooled?.next
              ? `${netPercent(Math.exp(pooled.next.low))} to ${netPercent(Math.exp(pooled.next.high))}`
              : ABSENT,
          ),
        ]),
      },
    ],
  };
}
