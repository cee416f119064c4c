/* The sentence of a round, which a client could read as it stands. */

import type { Mark } from '../effect/verdict';
import type { Piece } from '../reading/readingSentence';
import { changeKindName } from '../model/change';
import { boundShare, count, longDay, netShare, share } from '../words/format';
import type { RoundEffect } from './effect';
import type { TurnReading } from './reading';
import type { RoundMeasure } from '../measures/registry';

const SMALL = ['no', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten'];

/**
 * A number in running text.
 *
 * @example numberWord(10) // "ten"; numberWord(12) // "12"
 */
export const numberWord = (n: number): string => SMALL[n] ?? count(n);

/**
 * What the pages of an experiment were given.
 *
 * @example thingsOf('title-rewrite', 2) // "new titles"
 */
export function thingsOf(kind: string, n: number): string {
  const [one, many] = THINGS[kind] ?? [
    `page with ${changeKindName(kind).toLowerCase()}`,
    `pages with ${changeKindName(kind).toLowerCase()}`,
  ];
  return n === 1 ? one : many;
}
const THINGS: Readonly<Record<string, readonly [string, string]>> = {
  'title-rewrite': ['new title', 'new titles'],
  'meta-description': ['new description', 'new descriptions'],
  headings: ['page with new headings', 'pages with new headings'],
  'body-copy': ['rewritten page', 'rewritten pages'],
  'internal-links': ['linked page', 'linked pages'],
};

/** A round's sentences: what was found, and what is said with it. */
export type RoundSentence = { readonly found: readonly Piece[]; readonly limits: string };

/** What pages that moved in a measure did, without their size. */
const VERBS: Readonly<Record<RoundMeasure, readonly [more: string, less: string, level: string]>> = {
  appeal: ['chosen % more often', 'chosen % less often', 'chosen about as often'],
  clicks: ['clicked % more', 'clicked % less', 'clicked about as often'],
  showings: ['shown % more', 'shown % less', 'shown about as often'],
  rank: ['standing % higher', 'standing % lower', 'standing about where they stood'],
};
const better = (measure: RoundMeasure, net: number) => (measure === 'rank' ? net < 0 : net > 0);

/**
 * The size of an effect in words.
 *
 * @example effectText('appeal', { net: 0.131, … }) // "chosen 14% more often"
 */
export function effectText(measure: RoundMeasure, { net }: Pick<RoundEffect, 'net'>): string {
  const size = netShare(measure === 'rank' ? -net : net);
  const [more, less, level] = VERBS[measure];
  return size === null ? level : (better(measure, net) ? more : less).replace('%', size);
}

/** The ends of an effect's range in words. @example "likely between 7% and 22%" */
export function rangeWords(measure: RoundMeasure, { net, low, high }: RoundEffect): string {
  if (!Number.isFinite(low) || !Number.isFinite(high))
    return 'and with so few pages no draw would have shown less';
  const ratio = (log: number) => Math.exp(measure === 'rank' ? -log : log);
  const [a, b] = [ratio(low), ratio(high)].sort((x, y) => x - y) as [number, number];
  const up = better(measure, net);
  const text = (value: number) =>
    value > 1 === up || value === 1 ? boundShare(value) : `${boundShare(value)} ${up ? 'less' : 'more'}`;
  const ends = up ? [a, b] : [b, a];
  return `likely between ${text(ends[0]!)} and ${text(ends[1]!)}`;
}

/** How often the draw alone brings as much. */
export function chanceText({ p }: Pick<RoundEffect, 'p'>): string {
  const times = Math.round(p * 1000);
  const drawn =
    times === 0
      ? 'Chance alone would bring as much in fewer than one of 1,000 draws'
      : `Chance alone would bring as much in ${count(times)} of 1,000 draws`;
  if (p < 0.005) return `${drawn}: this is as good as certain not to be chance.`;
  return p > 0.1 ? `${drawn}, so it may well be chance.` : `${drawn}.`;
}

/** The sentence of a turn. `kind` is that of the round. */
export function turnSentence(kind: string, turn: TurnReading): RoundSentence {
  const n = turn.pages.filter(({ changed }) => changed).length;
  const others = turn.pages.length - n;
  const effect = turn.effects[turn.judged];
  const the = `The ${numberWord(n)} ${thingsOf(kind, n)}`;
  if (!turn.read || !effect) {
    const when = turn.completeOn === null ? '' : ` The whole can be read on ${longDay(turn.completeOn)}.`;
    const why = turn.read
      ? 'There are too few figures to compare the halves.'
      : 'Too soon to compare anything.';
    return { found: [{ text: why }], limits: when.trim() };
  }
  const than = `than ${controlText(turn, effect, others)}`;
  const mark: Mark = turn.verdict === 'waiting' ? (turn.early?.called ?? 'unclear') : turn.verdict;
  const found: Piece[] =
    turn.verdict === 'held' || (turn.verdict !== 'waiting' && mark === 'unclear')
      ? [
          {
            text:
              mark === 'held'
                ? `${the} are `
                : `Whether the ${numberWord(n)} ${thingsOf(kind, n)} did anything cannot be told: `,
          },
          { text: effectText(turn.judged, effect), mark },
          { text: ` ${than}, ${rangeWords(turn.judged, effect)}.` },
        ]
      : [
          {
            text:
              turn.verdict === 'waiting'
                ? `So far, ${the[0]!.toLowerCase()}${the.slice(1)} are `
                : `${the} are `,
          },
          { text: effectText(turn.judged, effect), mark },
          {
            text: `${turn.judged === 'appeal' ? `, at the same searches and positions,` : ''} ${than}, ${rangeWords(turn.judged, effect)}.`,
          },
        ];
  const early = turn.early
    ? `Already plain since ${longDay(turn.early.day)}, even allowing for daily looks.`
    : turn.verdict === 'waiting'
      ? 'Nothing is plain yet; a look before the end counts only where it would be as good as certain.'
      : '';
  const when =
    turn.verdict === 'waiting' && turn.completeOn !== null
      ? `The whole can be read on ${longDay(turn.completeOn)}.`
      : '';
  const chance = turn.against === 'half' && turn.verdict !== 'waiting' ? chanceText(effect) : '';
  return { found, limits: [chance, sideText(turn), early, when].filter(Boolean).join(' ') };
}

/** Whom the changed half is held against. */
function controlText({ against, half }: TurnReading, { waiting }: RoundEffect, others: number): string {
  if (against === 'site') return 'what the rest of the site suggests';
  const otherHalf = `the ${numberWord(others)} that ${half === 'first' ? 'wait' : 'went before'}`;
  return waiting < NEARLY_ALL ? `${otherHalf} and the rest of the site suggest` : otherHalf;
}
/** From here on the other half is as good as the whole control. */
const NEARLY_ALL = 0.95;

/**
 * What the halves alone say about the judged measure, and the weight of the other half in the
 * control; empty without halves, or if the control has nothing else.
 */
export function aloneText({ alone, effects, judged, half }: TurnReading): string {
  const [one, both] = [alone?.[judged], effects[judged]];
  if (!one || !both || both.waiting >= NEARLY_ALL) return '';
  const other = half === 'first' ? 'half that waits' : 'first half';
  return `The ${other} is ${share(both.waiting)} of the control, untouched pages of the site are the rest. By the draw of the halves alone: ${effectText(judged, one)}, ${rangeWords(judged, one)}. ${chanceText(one)}`;
}

/** What the halves did besides: how often they are shown and where. */
function sideText({ effects, judged, verdict }: TurnReading): string {
  if (verdict === 'waiting') return '';
  const said = (['showings', 'rank', 'clicks'] as const).flatMap((measure) => {
    const effect = effects[measure];
    if (measure === judged || !effect) return [];
    const moved = effect.low > 0 || effect.high < 0;
    if (measure === 'clicks') return moved ? [effectText('clicks', effect)] : [];
    if (measure === 'rank') return moved ? [effectText('rank', effect)] : [];
    return [moved ? effectText('showings', effect) : 'shown about as often as before'];
  });
  return said.length === 0 ? '' : `They are ${said.join(', and ')}.`;
}

/** Whether a second turn bears out the first. */
export function confirmationText(first: TurnReading, second: TurnReading): string {
  const [one, two] = [first.effects[first.judged], second.effects[first.judged]];
  if (!one || !two || second.verdict === 'waiting' || first.verdict === 'waiting') return '';
  const same = Math.sign(one.net) === Math.sign(two.net);
  if (second.verdict === first.verdict && first.verdict !== 'unclear')
    return 'The second turn bears out the first.';
  if (same && one.low <= two.net && two.net <= one.high)
    return 'The second turn by itself cannot tell, but it came out within the range of the first.';
  return same
    ? 'The second turn went the same way, by another amount than the first suggests.'
    : 'The second turn went the other way: what the first showed did not come again.';
}
