/*
 * Terms, lengths, title features, page types and intent of a result page, and what our text has of
 * them.
 */

import type { IntentWords } from '../words/intent';
import type { Lexicon } from '../words/stems';
import { entitiesOf, type Entity, type EntityReader } from './entities';
import { intentOfResults, kindOfResult, type IntentGuess } from './kinds';
import { marksOf, TITLE_MARKS, type TitleMark } from './marks';
import type { ComparedText, Result, ResultKind, ResultPage } from './resultPage';
import { measured, middleHalf, TITLE_ROOM, DESCRIPTION_ROOM, type Measured, type Middle } from './room';
import { stackedTitles, type Stacked } from './stacked';
import { inverseFrequency, sharedTerms, type Ranked, type Term } from './terms';

/** A result with what its text shows. */
export type WordedResult = {
  readonly result: Result;
  readonly own: boolean;
  readonly kind: ResultKind;
  readonly stacked: Stacked;
  readonly marks: readonly TitleMark[];
  readonly measured: Measured;
};

/** A term that is said by many results and by hardly any page of one's own site. */
export type RareTerm = { readonly form: string; readonly results: number; readonly ownPages: number };

export type Wording = {
  readonly of: ComparedText;
  /** The first ten, which are compared, and how many results there are. */
  readonly results: readonly WordedResult[];
  readonly total: number;
  readonly terms: readonly Term[];
  /** Shared terms that one's own text does not say, the most said first. */
  readonly missing: readonly Term[];
  readonly entities: readonly Entity[];
  readonly lengths: { readonly characters: Middle | null; readonly pixels: Middle | null };
  readonly marks: Readonly<Record<TitleMark, { readonly results: number; readonly own: boolean }>>;
  readonly intent: IntentGuess;
  /** One's own text that was compared; null where there is none. */
  readonly ownText: string | null;
  readonly rare: readonly RareTerm[];
};

/** What the words are compared by. */
export type WordingBasis = {
  readonly lexicon: Lexicon;
  readonly intents: IntentWords;
  /** Stems of terms that do not count. */
  readonly leftOut: ReadonlySet<string>;
  /** Finds names and numbers; null where the language is not known to it. */
  readonly read: EntityReader | null;
  /** How many pages of one's own say a stem, and how many there are. */
  readonly ownPages: { of(stem: string): number; readonly total: number } | null;
};

/** Results that are compared: those of the first page. */
const COMPARED = 10;
/** A term that so many results and at most this share of one's own pages say stands out. */
const [RARE_RESULTS, RARE_SHARE] = [3, 0.05];

/**
 * What the texts of a result page have in common.
 *
 * @param isOwn whether a result is ours
 * @param own our current or draft text; by default that of our result
 */
export function wordingOf(
  { query, results: all }: Pick<ResultPage, 'query' | 'results'>,
  isOwn: (address: string) => boolean,
  { lexicon, intents, leftOut, read, ownPages }: WordingBasis,
  {
    own = null,
    of = 'title',
    textOf = (result) => (of === 'h1' ? null : result[of]),
  }: {
    own?: string | null;
    of?: ComparedText;
    /** What is compared of a result; null where it has none. */
    textOf?: (result: Result) => string | null;
  } = {},
): Wording {
  const texts = new Map(all.slice(0, COMPARED).map((result) => [result, textOf(result)]));
  const results = all.slice(0, COMPARED).filter((result) => texts.get(result) !== null);
  const ownResult = results.find(({ address }) => isOwn(address));
  const ownText = own ?? (ownResult && texts.get(ownResult)) ?? null;
  const ranked = results.map((result): Ranked => ({ rank: result.rank, text: texts.get(result)! }));
  const room = of === 'description' ? DESCRIPTION_ROOM : TITLE_ROOM;
  const stacked = stackedTitles(
    ranked.map(({ text }) => text),
    lexicon,
  );
  const worded = results.map((result, i): WordedResult => ({
    ...{ result, own: isOwn(result.address), kind: kindOfResult(result), stacked: stacked[i]! },
    marks: [...marksOf(texts.get(result)!, result.address)],
    measured: measured(texts.get(result)!, room),
  }));
  const terms = sharedTerms(ranked, lexicon, { own: ownText, leftOut });
  const ownMarks = ownText === null ? new Set<TitleMark>() : marksOf(ownText, ownResult?.address ?? null);
  const ownMeasured = ownText === null ? null : measured(ownText, room);
  const others = worded.filter((one) => !one.own);
  return {
    ...{ of, results: worded, total: all.length, terms, ownText },
    missing: ownText === null ? [] : terms.filter(({ inTitle }) => !inTitle),
    entities: read === null ? [] : entitiesOf(ranked, read, ownText),
    lengths: {
      characters: middleHalf(
        others.map((one) => one.measured.characters),
        ownMeasured?.characters ?? null,
      ),
      pixels: middleHalf(
        others.map((one) => one.measured.pixels),
        ownMeasured?.pixels ?? null,
      ),
    },
    marks: Object.fromEntries(
      TITLE_MARKS.map((mark) => [
        mark,
        { results: others.filter(({ marks }) => marks.includes(mark)).length, own: ownMarks.has(mark) },
      ]),
    ) as Wording['marks'],
    intent: intentOfResults(query.text, results, intents),
    rare: ownPages === null || ownPages.total === 0 ? [] : rareTerms(terms, ownPages),
  };
}

/** Terms of one word that results say and one's own pages hardly do, the most telling first. */
function rareTerms(terms: readonly Term[], { of, total }: NonNullable<WordingBasis['ownPages']>): RareTerm[] {
  return terms
    .filter(({ words, results }) => words === 1 && results >= RARE_RESULTS)
    .map((term) => ({ term, ownPages: of(term.term) }))
    .filter(({ ownPages }) => ownPages <= RARE_SHARE * total)
    .sort(
      (a, b) =>
        b.term.share * inverseFrequency(b.ownPages, total) -
        a.term.share * inverseFrequency(a.ownPages, total),
    )
    .map(({ term, ownPages }) => ({ form: term.forms[0]!, results: term.results, ownPages }));
}
