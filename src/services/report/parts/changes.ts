import { isoDay } from '../../../core/calendar/day';
import { changeKindName, changeKindsName } from '../../../core/model/change';
import { metricNearest } from '../../../core/measures/registry';
import { isMade } from '../../../core/model/steps';
import type { Reading } from '../../../core/reading/readingModel';
import { type ReportCell, type ReportTable } from '../../../core/model/reportContent';
import { markOfRound } from '../../../core/rounds/reading';
import { turnSentence } from '../../../core/rounds/roundSentence';
import { netText, rangeText, VERDICT_NAMES } from '../../../core/effect/effectWords';
import {
  metricInText,
  ABSENT,
  boundPercent,
  count,
  mediumDay,
  metricValue,
  netPercent,
  plural,
} from '../../../core/words/format';
import {
  showsPeople,
  showsPages,
  pagesText,
  countedBy,
  cell,
  columns,
  type Turn,
  type Work,
  type Said,
} from '../reportContext';

export function changesPart(work: Work): Said {
  const { readings, turns } = work;
  const made = readings.filter(({ change }) => isMade(change));
  if (made.length + turns.length === 0) return { sentences: ['Nothing was changed in these days.'] };
  const kinds = countedBy([
    ...made.map(({ change }) => change.kind),
    ...turns.map(({ round }) => round.kind),
  ]);
  const people = countedBy(made.flatMap(({ change }) => change.person ?? []));
  const verdicts = countedBy([
    ...made.map(({ verdict }) => verdict),
    ...turns.map(({ turn }) => turn.verdict),
  ]);
  const people_ = showsPeople(work) && people.length > 0;
  const who: [string][] = showsPeople(work) ? [['who']] : [];
  return {
    sentences: [
      `${plural(made.length, 'change')}${turns.length > 0 ? ` and ${plural(turns.length, 'half of a round', 'halves of rounds')}` : ''}: ${kinds.map(([kind, n]) => `${count(n)} ${changeKindsName(kind).toLowerCase()}`).join(', ')}${people_ ? `; by ${people.map(([name, n]) => `${name} ${count(n)}`).join(', ')}` : ''}.`,
      `Read so far: ${verdicts.map(([verdict, n]) => `${count(n)} ${VERDICT_NAMES[verdict as keyof typeof VERDICT_NAMES]}`).join(', ')}.`,
    ],
    tables: [
      ...(made.length === 0
        ? []
        : [
            {
              title: 'Changes',
              columns: columns(
                ['change'],
                ['day'],
                ['pages'],
                ['kind'],
                ...who,
                ['verdict'],
                ['before', true],
                ['after', true],
                ['net effect', true],
                ['range, nine in ten', true],
              ),
              rows: made.map((reading) => changeRow(work, reading)),
            },
          ]),
      ...turns.map((one): ReportTable => turnTable(one)),
    ],
  };
}

function changeRow(work: Work, { change, verdict, judged, net, spans, metrics }: Reading): ReportCell[] {
  const effect = net?.[judged];
  const metric = metricNearest(judged);
  const { before, after } = metrics[metric];
  const value = !effect ? null : 'ratio' in effect ? effect.ratio : effect.placesGained;
  return [
    cell(showsPages(work) ? change.title : changeKindName(change.kind), change.id),
    cell(mediumDay(change.day), isoDay(change.day)),
    cell(pagesText(work, change.pages), change.pages.length),
    cell(changeKindName(change.kind), change.kind),
    ...(showsPeople(work) ? [cell(change.person ?? ABSENT, change.person)] : []),
    cell(`${VERDICT_NAMES[verdict]}${spans.complete ? '' : ' so far'}, by ${metricInText(judged)}`, verdict),
    cell(metricValue(metric, before), before),
    cell(metricValue(metric, after), after),
    cell(netText(net, judged), value),
    cell(rangeText(net, judged), effect ? `${effect.low} ${effect.high}` : null),
  ];
}

function turnTable({ round, turn }: Turn): ReportTable {
  const { found, limits } = turnSentence(round.kind, turn);
  const named = { appeal: 'appeal', clicks: 'clicks', showings: 'shown', rank: 'position' } as const;
  return {
    title:
      `${round.name}, ${turn.half} half (made ${mediumDay(turn.day)}): ${found.map(({ text }) => text).join('')} ${limits}`.trim(),
    columns: columns(
      ['measure'],
      ['verdict'],
      ['effect', true],
      ['range, nine in ten', true],
      ['by chance', true],
    ),
    rows: (['appeal', 'clicks', 'showings', 'rank'] as const).map((measure) => {
      const effect = turn.effects[measure];
      // Of position a better rank is a smaller number: told so that up is better.
      const up = (log: number) => Math.exp(measure === 'rank' ? -log : log);
      return [
        cell(named[measure]),
        cell(effect ? VERDICT_NAMES[markOfRound(measure, effect)] : ABSENT),
        cell(effect ? netPercent(up(effect.net)) : ABSENT, effect && Math.exp(effect.net)),
        cell(rangeOf(effect, up), effect && `${finite(effect.low)} ${finite(effect.high)}`),
        cell(effect ? effect.p.toFixed(3) : ABSENT, effect && effect.p),
      ];
    }),
  };
}

/** An end of a range as a ratio; null where so few pages leave it open. */
const finite = (log: number): number | null => (Number.isFinite(log) ? Math.exp(log) : null);

function rangeOf(
  effect: { readonly low: number; readonly high: number } | null,
  up: (log: number) => number,
): string {
  if (!effect) return ABSENT;
  if (finite(effect.low) === null || finite(effect.high) === null) return 'too few pages';
  return [up(effect.low), up(effect.high)]
    .sort((a, b) => a - b)
    .map(boundPercent)
    .join(' to ');
}
