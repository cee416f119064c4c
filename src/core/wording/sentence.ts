/* What a result page has in common, in sentences. */

import { INTENT_NAMES } from '../lists/intent';
import { plural } from '../words/format';
import { TITLE_MARK_NAMES, type TitleMark } from './marks';
import type { Wording } from './wording';

const NUMBERS = ['none', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten'];
const inWords = (n: number) => NUMBERS[n] ?? String(n);
const upper = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/**
 * What most of the results say and one's own text does not, what they are after, and what marks they use.
 * @example "Seven of the ten say “winter”, five “fondant”; yours says neither. Two put a year."
 */
export function wordingSentence({ results, terms, missing, ownText, marks, intent }: Wording): string {
  if (results.length === 0) return 'None of the results has such a text.';
  const most = terms.slice(0, 3);
  const parts: string[] = [];
  if (most.length === 0) parts.push('No two of them say the same.');
  else {
    const said = most
      .map(({ results: n, forms }, i) =>
        i === 0
          ? `${inWords(n)} of the ${inWords(results.length)} ${n === 1 ? 'says' : 'say'} “${forms[0]}”`
          : `${inWords(n)} “${forms[0]}”`,
      )
      .join(', ');
    const lacking = most.filter((term) => missing.includes(term));
    const own =
      ownText === null
        ? ''
        : lacking.length === 0
          ? `; yours says ${most.length === 1 ? 'it' : most.length === 2 ? 'both' : 'all three'}`
          : lacking.length === most.length
            ? `; yours says ${most.length === 1 ? 'it not' : most.length === 2 ? 'neither' : 'none of them'}`
            : `; yours does not say ${lacking.map(({ forms }) => `“${forms[0]}”`).join(' and ')}`;
    parts.push(`${upper(said)}${own}.`);
  }
  if (intent.guess) parts.push(`Most who search want ${intentText(intent.guess)}.`);
  const used = (Object.keys(marks) as TitleMark[])
    .filter((mark) => mark !== 'separator' && marks[mark].results >= 2)
    .sort((a, b) => marks[b].results - marks[a].results)
    .slice(0, 2)
    .map(
      (mark) =>
        `${inWords(marks[mark].results)} ${marks[mark].results === 1 ? 'has' : 'have'} ${TITLE_MARK_NAMES[mark]}`,
    );
  if (used.length > 0) parts.push(`${upper(used.join(', '))}.`);
  return parts.join(' ');
}

function intentText(intent: keyof typeof INTENT_NAMES): string {
  return INTENT_NAMES[intent];
}

/** The likely intent with its reasons. @example "To learn: 6 of 10 results are pages and 3 titles say so." */
export function intentSentence({ guess, reasons }: Wording['intent']): string {
  if (guess === null) return 'What people are after cannot be told from these results.';
  return `${upper(INTENT_NAMES[guess])}${reasons.length > 0 ? `: ${reasons.join(', and ')}` : ''}.`;
}

/** How long one's own text is beside the others. @example "63 characters, where the middle half has 42 to 55." */
export function lengthSentence({ lengths: { characters }, results }: Wording): string {
  if (!characters) return '';
  const [low, high] = [Math.round(characters.low), Math.round(characters.high)];
  const middle = `the middle half of ${plural(results.length, 'result')} has ${low} to ${high} characters`;
  return characters.own === null ? upper(`${middle}.`) : `Yours has ${characters.own} characters; ${middle}.`;
}
