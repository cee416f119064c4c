/* What the titles of a result page have in common: terms of one to four words by their stems. */

import type { Lexicon } from '../words/stems';
import { tokensOf, type Token } from './tokens';

/** A text of a result under its rank. */
export type Ranked = { readonly rank: number; readonly text: string };

/** A term that results say. */
export type Term = {
  /** Its stems, by which it is known. */
  readonly term: string;
  /** How it is written, the most frequent first. */
  readonly forms: readonly string[];
  /** How many words it has, those that only join not counted. */
  readonly words: number;
  /** How many results say it, at which ranks, and their share weighted by rank. */
  readonly results: number;
  readonly ranks: readonly number[];
  readonly share: number;
  /** Whether one's own text says it. */
  readonly inTitle: boolean;
};

/** The longest term in words. */
const LONGEST = 4;

/**
 * What a result weighs by its rank: the discount by the logarithm of the rank.
 * Source: Järvelin and Kekäläinen, ACM Transactions on Information Systems 20 (2002) 422-446.
 * @example rankWeight(1) // 1; rankWeight(3) // 0.5
 */
export function rankWeight(rank: number): number {
  return 1 / Math.log2(1 + rank);
}

/**
 * The terms of a text: stems of up to four consecutive content words within a segment, with their
 * spellings.
 */
export function termsIn(text: string, lexicon: Lexicon): Map<string, { words: number; form: string }> {
  const found = new Map<string, { words: number; form: string }>();
  for (const run of runsOf(tokensOf(text, lexicon)))
    for (let from = 0; from < run.length; from++)
      for (let to = from; to < Math.min(run.length, from + LONGEST); to++) {
        const part = run.slice(from, to + 1);
        const term = part.map(({ stem }) => stem).join(' ');
        if (!found.has(term))
          found.set(term, {
            words: part.length,
            form: text.slice(part[0]!.start, part.at(-1)!.end).toLowerCase(),
          });
      }
  return found;
}

/** The telling words of each segment; a single letter tells nothing. */
function runsOf(tokens: readonly Token[]): Token[][] {
  const runs: Token[][] = [];
  for (const token of tokens) {
    if (token.joining || /^\p{L}$/u.test(token.word)) continue;
    const last = runs.at(-1);
    if (last && last[0]!.segment === token.segment) last.push(token);
    else runs.push([token]);
  }
  return runs;
}

/**
 * Terms of at least two results, most shared first. A term that only occurs within a longer one is
 * covered by that.
 *
 * @param own our text
 * @param leftOut excluded terms
 */
export function sharedTerms(
  results: readonly Ranked[],
  lexicon: Lexicon,
  { own = null, leftOut = new Set() }: { own?: string | null; leftOut?: ReadonlySet<string> } = {},
): Term[] {
  const said = own === null ? new Map() : termsIn(own, lexicon);
  const all = new Map<string, { words: number; forms: Map<string, number>; ranks: number[] }>();
  for (const { rank, text } of results)
    for (const [term, { words, form }] of termsIn(text, lexicon)) {
      const known = all.get(term) ?? { words, forms: new Map<string, number>(), ranks: [] };
      all.set(term, known);
      known.ranks.push(rank);
      known.forms.set(form, (known.forms.get(form) ?? 0) + 1);
    }
  const whole = results.reduce((sum, { rank }) => sum + rankWeight(rank), 0);
  const shared = [...all].flatMap(([term, { words, forms, ranks }]): Term[] => {
    if (ranks.length < 2 || term.split(' ').some((stem) => leftOut.has(stem)) || leftOut.has(term)) return [];
    return [
      {
        ...{ term, words, results: ranks.length, inTitle: said.has(term) },
        forms: [...forms].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1)).map(([form]) => form),
        ranks: [...ranks].sort((a, b) => a - b),
        share: ranks.reduce((sum, rank) => sum + rankWeight(rank), 0) / whole,
      },
    ];
  });
  return shared
    .filter((term) => !shared.some((longer) => isPartOf(term, longer)))
    .sort(
      (a, b) => b.results - a.results || b.share - a.share || a.words - b.words || (a.term < b.term ? -1 : 1),
    );
}

function isPartOf(term: Term, longer: Term): boolean {
  return (
    longer.words > term.words &&
    longer.results === term.results &&
    ` ${longer.term} `.includes(` ${term.term} `)
  );
}

/**
 * Inverse document frequency: the log of the number of documents over those with the term.
 *
 * Source: Manning, Raghavan and Schütze, Introduction to Information Retrieval (2008), section
 * 6.2.1.
 *
 * @example inverseFrequency(18165, 806791) // 3.79, in natural logarithms
 */
export function inverseFrequency(documents: number, of: number): number {
  return Math.log(of / Math.max(1, documents));
}
