import type { Metrics } from '../measures/comparison';
import { isInPlaces, MEASURE_NAMES, type Measure, type Metric } from '../measures/registry';
import { turned } from '../effect/effect';
import type { VerdictMeasure } from '../measures/registry';
import type { Mark } from '../effect/verdict';
import { movedText } from '../effect/effectWords';
import {
  longDay,
  metricDifference,
  metricInText,
  metricValue,
  percentChange,
  boundPlaces,
  boundShare,
  placesGained,
  plural,
  share,
  spanText,
} from '../words/format';
import type { Reading } from './readingModel';
import { carriersClause } from './carriersClause';
import { reasonsClause } from './reasonsClause';

/** A piece of a sentence; one with a mark is the finding itself. */
export type Piece = { readonly text: string; readonly mark?: Mark };

/** The opening sentence of a reading: what was found, in parts, and what must be said with it. */
export type Sentence = { readonly found: readonly Piece[]; readonly limits: string };

/** A sentence as plain text. */
export function plainSentence({ found, limits }: Sentence): string {
  return [found.map((piece) => piece.text).join(''), limits].filter(Boolean).join(' ');
}

/** The sentence of a reading, which a client could read as it stands. */
export function readingSentence(reading: Reading): Sentence {
  const { compared, metrics, spans } = reading;
  const { before, after } = metrics.clicks;
  if (spans.planned) return { found: [{ text: 'Still to be made.' }], limits: showableClause(reading) };
  if (spans.complete && (before === null || after === null)) {
    const side = before === null ? spans.before : spans.after;
    return {
      found: [
        {
          text: `There are no figures for the ${before === null ? 'before' : 'after'} span, ${spanText(side)}.`,
        },
      ],
      limits: 'Bring in a file that covers these days, and the reading fills itself.',
    };
  }
  if (before === null || after === null || !compared?.after) {
    return {
      found: [
        { text: compared ? 'Too soon to compare anything.' : 'There are no figures for these days yet.' },
      ],
      limits: whenToLook(reading),
    };
  }
  if (reading.verdict === 'waiting') {
    const weeks = (compared.after.lastDay - compared.after.firstDay + 1) / 7;
    return {
      found: [...earlyPieces(reading), { text: 'So far: ' }, ...finding(reading)],
      limits: `Interim, over ${weeks === 1 ? 'one whole week' : `${weeks} whole weeks`} on both sides. ${whenToLook(reading)}`,
    };
  }
  return {
    found: finding(reading),
    limits: [
      opposedClause(reading),
      secondFinding(reading),
      reasonsClause(reading),
      carriersClause(reading.carriers),
    ]
      .filter(Boolean)
      .join(' '),
  };
}

/** An early call: "Already plain since 3 October: dropped, chosen less often." */
function earlyPieces({ early }: Reading): Piece[] {
  if (!early) return [];
  const words = movedText(early.movedIn, early.called);
  return [
    { text: `Already plain since ${longDay(early.day)}: ` },
    { text: early.called, mark: early.called },
    { text: `, ${words}. ` },
  ];
}

/** When a reading will be available, or what it waits for if its days are over. */
function whenToLook({ spans }: Reading): string {
  if (spans.completeOn === null) {
    return `Its days are over: bring in figures up to ${longDay(spans.after.lastDay)}, and the reading is complete.`;
  }
  const complete = `reading will be complete on ${longDay(spans.completeOn)}.`;
  return spans.interimOn === null
    ? `The ${complete}`
    : `A first interim figure comes on ${longDay(spans.interimOn)}; the ${complete}`;
}

/** How far the judged measure came out from what the control suggests, with its range. */
function finding(reading: Reading): Piece[] {
  const { judged, net, marks, verdict, spans } = reading;
  const mark = marks[judged];
  const effect = effectOf(reading, judged);
  if (!net || !mark || !effect) {
    const metric = isMetric(judged) ? judged : 'clicks';
    return [{ text: `${MEASURE_NAMES[metric]} ${moved(metric, reading.metrics)}.` }];
  }
  const [before, after] = around(reading);
  const { size, range } = effect;
  const said = spans.complete && verdict !== 'waiting' ? verdict : mark;
  if (mark === 'held') {
    const often = `How often ${reading.change.pages.length > 1 ? 'they are' : 'it is'} chosen${after}`;
    const [what, than] = judged === 'appeal' ? [often, ''] : [before, after];
    return [
      { text: `${what} ` },
      { text: 'held level', mark },
      { text: `: ${size}${than}, likely between ${range}.` },
    ];
  }
  if (mark === 'unclear')
    return [
      { text: `${before} ${size}${after}, but it ` },
      { text: 'could be either', mark },
      { text: `: anything between ${range}.` },
    ];
  if (said !== 'unclear')
    return [{ text: `${before} ` }, { text: size, mark }, { text: `${after}, likely between ${range}.` }];
  if (!clicksAgree(reading))
    return [
      {
        text: `${before} ${size}${after}, likely between ${range}. Clicks did not follow, so the change as a whole `,
      },
      { text: 'could be either', mark: 'unclear' },
      { text: '.' },
    ];
  return [
    {
      text: `${before} ${size}${after}, likely between ${range}. By itself that would count; but of the four things looked at, one goes this far by chance more than one time in ten, so it `,
    },
    { text: 'could be either', mark: 'unclear' },
    { text: '.' },
  ];
}

/** Whether clicks went the same way as the measure that the verdict is told by. */
function clicksAgree({ estimates, judged }: Reading): boolean {
  const [own, clicks] = [estimates?.[judged], estimates?.clicks];
  if (!own || !clicks) return true;
  return turned(judged, own).net * clicks.net > 0;
}

const isMetric = (measure: Measure): measure is Metric => measure !== 'showings' && measure !== 'rank';

/** The words before and after the size of an effect. */
function around(reading: Reading): [string, string] {
  const { judged } = reading;
  const several = reading.change.pages.length > 1;
  const it = several ? 'They were' : 'It was';
  switch (judged) {
    case 'appeal':
      return [`${it} chosen`, ' at the same searches and positions'];
    case 'showings':
      return ['What was shown, and where, was worth', ` clicks ${suggestion(reading)}`];
    case 'rank':
      return [`${several ? 'They stood' : 'It stood'}`, ` search by search ${suggestion(reading)}`];
    default:
      return [`${MEASURE_NAMES[judged]} came out`, ` ${suggestion(reading)}`];
  }
}

/** What the effect is measured against: the control, or the page's own past where there is none. */
function suggestion({ yardstick, judged }: Reading): string {
  const by = yardstick && yardstick.pages > 0 ? 'the untouched pages suggest' : 'its own past suggests';
  return isInPlaces(judged) || judged === 'showings' ? `than ${by}` : `what ${by}`;
}

/** "above" and "below" as each measure has it. */
function sides(measure: Measure): [string, string] {
  if (measure === 'appeal') return ['more often', 'less often'];
  return measure === 'showings' ? ['more', 'fewer'] : ['above', 'below'];
}

/**
 * A net effect in words: "24% above", "9% and 41%"; of appeal "24% more often"; of position "2.1
 * places better", "1.0 and 3.2 places up".
 */
export function effectOf(
  { net }: Pick<Reading, 'net'>,
  measure: Measure,
): { size: string; range: string } | null {
  const effect = net?.[measure];
  if (!effect) return null;
  if ('placesGained' in effect) {
    const places = placesGained(effect.placesGained);
    const word =
      places === 'level'
        ? 'no better and no worse'
        : places.replace(/ up$/, ' better').replace(/ down$/, ' worse');
    return { size: word, range: `${boundPlaces(effect.low)} and ${boundPlaces(effect.high)}` };
  }
  const [up, down] = sides(measure);
  const side = (ratio: number) => `${share(Math.abs(ratio - 1))} ${ratio >= 1 ? up : down}`;
  const bound = (ratio: number) => `${boundShare(ratio)} ${ratio >= 1 ? up : down}`;
  const { low, high } = effect;
  const sameSide = low >= 1 || high <= 1;
  const range = sameSide
    ? low >= 1
      ? `${boundShare(low)} and ${boundShare(high)}`
      : `${boundShare(high)} and ${boundShare(low)}`
    : `${bound(low)} and ${bound(high)}`;
  return { size: side(effect.ratio), range };
}

/** The clicks, to which everything comes down, where another measure was judged. */
function secondFinding(reading: Reading): string {
  if (reading.judged === 'clicks') return '';
  const effect = effectOf(reading, 'clicks');
  const mark = reading.marks.clicks;
  if (!effect || !mark) return `Clicks ${moved('clicks', reading.metrics)}.`;
  const said =
    mark === 'held' ? 'held level' : mark === 'unclear' ? 'are unclear' : `came out ${effect.size}`;
  return `Clicks ${said}, likely between ${effect.range}.`;
}

/** What pulls against each other, where two measures plainly went opposite ways. */
function opposedClause(reading: Reading): string {
  const { opposed } = reading;
  if (!opposed) return '';
  const phrase = (measure: VerdictMeasure) => {
    const size = effectOf(reading, measure)?.size ?? '';
    if (measure === 'appeal') return `it is chosen ${size}`;
    return measure === 'rank' ? `it stands ${size}` : `what is shown is worth ${size} clicks`;
  };
  return `Two things pull against each other: ${phrase(opposed.up)}, and ${phrase(opposed.down)}.`;
}

/** What a page could show before anything is done to it. */
function showableClause({ wait, spans, change, compared, metrics }: Reading): string {
  const here = wait?.showable.find((one) => one.windowDays === spans.windowDays);
  if (!wait || !here) {
    const silent = compared !== null && !metrics.impressions.before;
    return silent ? 'There are no figures yet from which to say what this page could show.' : '';
  }
  const name = metricInText(wait.metric);
  const smallest = `In ${plural(spans.windowDays, 'day')} ${change.pages.length > 1 ? 'these pages' : 'this page'} could show a change in ${name} of ${share(here.ratio - 1)} or more.`;
  if (wait.expectedRatio === null) return smallest;
  if (wait.daysNeeded === null) {
    return `${smallest} What is expected is less than it can show even in ${plural(wait.showable.at(-1)?.windowDays ?? 0, 'day')}: it will not be told apart from chance.`;
  }
  return `${smallest} What is expected would show in ${plural(wait.daysNeeded, 'day')}.`;
}

/** "rose from 412 to 498 (+86, +20.9%)"; of position, "improved" or "worsened" by places. */
export function moved(metric: Metric, metrics: Metrics): string {
  const { before, after } = metrics[metric];
  if (before === null || after === null) return 'cannot be compared, being absent on one side';
  const gain = metric === 'position' ? metrics.position.placesGained : metrics[metric].difference;
  const [from, to] = [metricValue(metric, before), metricValue(metric, after)];
  if (gain === null || from === to) return `stayed at ${to}`;
  const difference = metricDifference(metric, gain);
  if (metric === 'position')
    return `${gain > 0 ? 'improved' : 'worsened'} from ${from} to ${to} (${difference})`;
  const { ratio } = metrics[metric];
  const inPercent = ratio === null ? '' : `, ${percentChange(ratio)}`;
  return `${gain > 0 ? 'rose' : 'fell'} from ${from} to ${to} (${difference}${inPercent})`;
}
