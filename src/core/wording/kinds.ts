/* What a result is, and what a search is after, guessed from what the results show. */

import type { IntentWords } from '../words/intent';
import type { Intent } from '../model/intents';
import { intentOf } from '../words/intent';
import { INTENT_NAMES } from '../model/intents';
import { RESULT_KIND_NAMES, type Result, type ResultKind } from './resultPage';
import { plural } from '../words/format';

/**
 * Signs of a page type in a URL or title, first match wins. Common practice, no published source.
 */
const SIGNS: readonly (readonly [ResultKind, RegExp | null, RegExp | null])[] = [
  ['forum', /\/(?:forum|forums|thread|threads|topic|community|questions?)\b|\bforum\./i, /\bforum\b/i],
  ['video', /\/(?:video|videos|watch)\b|\bvideo\./i, /\bvideo\b/i],
  ['image', /\/(?:image|images|gallery|photos)\b/i, /\b(?:photos|pictures|images)\b/i],
  ['news', /\/(?:news|\d{4}\/\d{2}\/\d{2})\b|\bnews\./i, /\bnews\b/i],
  [
    'tool',
    /\/(?:calculator|tool|tools|generator|converter)\b/i,
    /\b(?:calculator|converter|generator|checker)\b/i,
  ],
  ['local', /\/(?:near|locations?|stores?\/)\b/i, /\bnear (?:me|you)\b/i],
  [
    'shop',
    /\/(?:shop|store|product|products|buy|category|c|p|collections)\//i,
    /\b(?:buy|shop|for sale|price|prices)\b/i,
  ],
  ['list', null, /^\D{0,12}\b\d{1,2}\b(?!\s*(?:kg|g|l|ml|cm|mm|m|lb|oz|%))|\b(?:best|top)\b/i],
];

/** The kind of a result: as it was said, else as its address and its title give away. */
export function kindOfResult({ kind, address, title, extras }: Result): ResultKind {
  if (kind !== null) return kind;
  if (extras.includes('price')) return 'shop';
  return (
    SIGNS.find(([, inAddress, inTitle]) => inAddress?.test(address) || inTitle?.test(title))?.[0] ?? 'page'
  );
}

/** What a search is after, and why that is thought. */
export type IntentGuess = { readonly guess: Intent | null; readonly reasons: readonly string[] };

const SAYS: Readonly<Partial<Record<ResultKind, Exclude<Intent, 'to-site'>>>> = {
  ...{ shop: 'to-buy', local: 'to-buy', list: 'to-compare', forum: 'to-learn' },
  ...{ page: 'to-learn', video: 'to-learn', news: 'to-learn', tool: 'to-learn', image: 'to-learn' },
};

/** @example kindText('forum', 1) // "is a forum" */
function kindText(kind: ResultKind, n: number): string {
  const uncounted = kind === 'news' || kind === 'brand' || kind === 'local';
  if (uncounted) return `${n === 1 ? 'is' : 'are'} ${RESULT_KIND_NAMES[kind]}`;
  return n === 1
    ? `is ${kind === 'image' ? 'an' : 'a'} ${RESULT_KIND_NAMES[kind]}`
    : `are ${RESULT_KIND_NAMES[kind]}s`;
}

/** The likely intent of a search by the kinds of its results and the words of both. */
export function intentOfResults(query: string, results: readonly Result[], words: IntentWords): IntentGuess {
  const kinds = new Map<ResultKind, number>();
  const votes = new Map<Intent, number>();
  const said = new Map<Intent, number>();
  for (const result of results) {
    const kind = kindOfResult(result);
    kinds.set(kind, (kinds.get(kind) ?? 0) + 1);
    const byWords = intentOf(result.title, false, words);
    if (byWords) said.set(byWords, (said.get(byWords) ?? 0) + 1);
    const vote = kind === 'brand' ? 'to-site' : (byWords ?? SAYS[kind]);
    if (vote) votes.set(vote, (votes.get(vote) ?? 0) + 1);
  }
  const own = intentOf(query, false, words);
  if (own) votes.set(own, (votes.get(own) ?? 0) + Math.max(2, results.length / 4));
  const [best] = [...votes].sort((a, b) => b[1] - a[1]);
  if (!best || best[1] < results.length / 3) return { guess: null, reasons: [] };
  const [guess] = best;
  const reasons: string[] = [];
  if (own === guess) reasons.push(`the query has a word of searches ${INTENT_NAMES[guess]}`);
  const telling = [...kinds]
    .filter(([kind]) => (kind === 'brand' ? 'to-site' : SAYS[kind]) === guess)
    .sort((a, b) => b[1] - a[1]);
  if (telling.length > 0)
    reasons.push(
      telling
        .slice(0, 2)
        .map(
          ([kind, n], i) =>
            `${n}${i === 0 ? ` of ${plural(results.length, 'result')}` : ''} ${kindText(kind, n)}`,
        )
        .join(' and '),
    );
  const worded = said.get(guess) ?? 0;
  if (worded > 0) reasons.push(`${plural(worded, 'title')} ${worded === 1 ? 'says' : 'say'} so`);
  return { guess, reasons };
}
