/* What a result page has in common, in sentences. */

import { INTENT_NAMES } from '../model/intents';
import { plural } from '../words/format';
import { TITLE_MARK_NAMES, type TitleMark } from './marks';
import type { Wording } from './wording';

const NUMBERS = ['none', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten'];
const inWords = (n: number) => NUMBERS[n] ?? String(n);
const upper = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** Terms that a sentence names, on each side. */
const NAMED = 2;

/**
 * What most results say, what our text lacks of it, the search intent, and title features.
 *
 * @example
 * "Eight of the ten say “feeding” and “bees”, as yours does; four say “fondant”, which yours does
 * not."
 */
export function wordingSentence({ results, terms, missing, ownText, marks, intent }: Wording): string {
  if (results.length === 0) return 'None of the results has such a text.';
  const lacking = missing.filter(({ results: n }) => n >= 2).slice(0, NAMED);
  const said = terms.filter((term) => !missing.includes(term)).slice(0, NAMED);
  const parts: string[] = [];
  if (terms.length === 0) parts.push('No two of them say the same.');
  else if (ownText === null) parts.push(`${upper(sayings(terms.slice(0, 3), results.length))}.`);
  else {
    const both = said.length > 0 ? `${sayings(said, results.length)}, as yours does` : '';
    const not =
      lacking.length > 0
        ? `${sayings(lacking, said.length > 0 ? null : results.length)}, which yours does not`
        : '';
    parts.push(`${upper([both, not].filter(Boolean).join('; '))}.`);
  }
  if (intent.guess) parts.push(`Most who search want ${INTENT_NAMES[intent.guess]}.`);
  const used = (Object.keys(marks) as TitleMark[])
    .filter((mark) => mark !== 'separator' && marks[mark].results >= 2)
    .sort((a, b) => marks[b].results - marks[a].results)
    .slice(0, 2)
    .map((mark) => `${inWords(marks[mark].results)} have ${TITLE_MARK_NAMES[mark]}`);
  if (used.length > 0) parts.push(`${upper(used.join(', '))}.`);
  return parts.join(' ');
}

/**
 * How many results have which terms; `of` is null if the total was stated before.
 *
 * @example "eight of the ten say “feeding”, seven “winter”"
 */
function sayings(terms: Wording['terms'], of: number | null): string {
  const who = (n: number) =>
    of === null ? inWords(n) : n === of ? `all ${inWords(n)}` : `${inWords(n)} of the ${inWords(of)}`;
  return terms
    .map(({ results, forms }, i) =>
      i === 0 ? `${who(results)} say “${forms[0]}”` : `${inWords(results)} “${forms[0]}”`,
    )
    .join(', ');
}

/**
 * The likely intent with its reasons.
 *
 * @example "To learn: 6 of 10 results are pages and 3 titles say so."
 */
export function intentSentence({ guess, reasons }: Wording['intent']): string {
  if (guess === null) return 'What people are after cannot be told from these results.';
  return `${upper(INTENT_NAMES[guess])}${reasons.length > 0 ? `: ${reasons.join(', and ')}` : ''}.`;
}

/**
 * The length of our text beside the others.
 *
 * @example "63 characters, where the middle half has 42 to 55."
 */
export function lengthSentence({ lengths: { characters }, results }: Wording): string {
  if (!characters) return '';
  const [low, high] = [Math.round(characters.low), Math.round(characters.high)];
  const middle = `the middle half of ${plural(results.length, 'result')} has ${low} to ${high} characters`;
  return characters.own === null ? upper(`${middle}.`) : `Yours has ${characters.own} characters; ${middle}.`;
}
