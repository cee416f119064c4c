/*
 * A draft of a title or description compared with the results, the present page, and its queries.
 */

import type { Lexicon } from '../words/stems';
import { entitiesOf, type EntityReader } from './entities';
import { brandAtEnd, marksOf, type TitleMark } from './marks';
import { DESCRIPTION_ROOM, measured, TITLE_ROOM, type Measured } from './room';
import { termsIn, type Term } from './terms';
import { tokensOf } from './tokens';
import type { Worded } from './resultPage';

/** Where a query stands in a text: in front, further on, only its words, or not all of them. */
export type QueryPlace = 'front' | 'within' | 'words' | 'parts' | 'absent';

export type DraftReport = {
  readonly measured: Measured;
  /** Shared terms that the draft has, misses, and may leave out because they were excluded. */
  readonly says: readonly string[];
  readonly lacks: readonly string[];
  readonly query: { readonly place: QueryPlace; readonly missing: readonly string[] };
  /** What none of the results says. */
  readonly alone: readonly string[];
  /** What the text as it is says and the draft does not. */
  readonly loses: readonly string[];
  /**
   * Queries of the page that the present text says in full and the draft wouldn’t, with
   * impressions.
   */
  readonly stopsSaying: readonly { readonly query: string; readonly impressions: number }[];
  /** Searches whose words it leaves unsaid, in showings. */
  readonly unsaid: number;
  readonly marks: readonly TitleMark[];
  /** Names, numbers and formats of the results that it says. */
  readonly entities: readonly string[];
  /** What takes much of it and tells nothing of the page: the name at its end, a year gone by. */
  readonly ballast: readonly string[];
};

/** What a draft is held against. */
export type DraftBasis = {
  readonly of: Worded;
  readonly lexicon: Lexicon;
  readonly terms: readonly Term[];
  /** The texts of the other results. */
  readonly others: readonly string[];
  /** The text as it is; null where the page has none. */
  readonly present: string | null;
  readonly query: string;
  readonly searches: readonly { readonly query: string; readonly impressions: number }[];
  readonly read: EntityReader | null;
  readonly address: string | null;
  /** The year now. */
  readonly year: number;
};

/** A term that the results are shown by in lists of drafts. */
const MOST_TERMS = 8;

/** Holds a draft against the results, the text as it is, and the searches of its page. */
export function draftReport(draft: string, basis: DraftBasis): DraftReport {
  const { of, lexicon, terms, others, present, query, searches, read, address } = basis;
  const said = termsIn(draft, lexicon);
  const stems = stemsOf(draft, lexicon);
  const shown = terms.slice(0, MOST_TERMS);
  const ofOthers = new Set(others.flatMap((text) => [...stemsOf(text, lexicon)]));
  const before = present === null ? null : stemsOf(present, lexicon);
  const wholeIn = (text: string, within: ReadonlySet<string>) =>
    tellingStems(text, lexicon).every((stem) => within.has(stem));
  return {
    measured: measured(draft, of === 'title' ? TITLE_ROOM : DESCRIPTION_ROOM),
    says: shown.filter(({ term }) => said.has(term)).map(({ forms }) => forms[0]!),
    lacks: shown.filter(({ term }) => !said.has(term)).map(({ forms }) => forms[0]!),
    query: networkOf(query, draft, lexicon),
    alone: formsOf(draft, lexicon, (stem) => !ofOthers.has(stem)),
    loses: before === null || present === null ? [] : formsOf(present, lexicon, (stem) => !stems.has(stem)),
    stopsSaying:
      before === null
        ? []
        : searches.filter((one) => wholeIn(one.query, before) && !wholeIn(one.query, stems)),
    unsaid: searches
      .filter((one) => !wholeIn(one.query, stems))
      .reduce((sum, { impressions }) => sum + impressions, 0),
    marks: [...marksOf(draft, address)],
    entities:
      read === null
        ? []
        : entitiesOf(
            others.map((text, i) => ({ rank: i + 1, text })),
            read,
            draft,
          )
            .filter(({ inTitle, results }) => inTitle && results > 0)
            .map(({ text }) => text),
    ballast: ballastOf(draft, basis),
  };
}

function stemsOf(text: string, lexicon: Lexicon): Set<string> {
  return new Set(tokensOf(text, lexicon).map(({ stem }) => stem));
}

function tellingStems(text: string, lexicon: Lexicon): string[] {
  const tokens = tokensOf(text, lexicon);
  const telling = tokens.filter(({ joining }) => !joining);
  return (telling.length > 0 ? telling : tokens).map(({ stem }) => stem);
}

/** The telling words of a text whose stems pass, as they are written, each once. */
function formsOf(text: string, lexicon: Lexicon, passes: (stem: string) => boolean): string[] {
  const found = new Map<string, string>();
  for (const { word, stem, joining } of tokensOf(text, lexicon))
    if (!joining && !found.has(stem) && passes(stem)) found.set(stem, word);
  return [...found.values()];
}

/**
 * Where a query stands in a text, by stems.
 * @example networkOf('winter feeding bees', 'Feeding bees in winter', lexicon).place // "words"
 */
export function networkOf(query: string, text: string, lexicon: Lexicon): DraftReport['query'] {
  const wanted = tellingStems(query, lexicon);
  const tokens = tokensOf(text, lexicon).filter(({ joining }) => !joining);
  const stems = tokens.map(({ stem }) => stem);
  const at = stems.findIndex((_, i) => wanted.every((stem, k) => stems[i + k] === stem));
  const all = new Set(stemsOf(text, lexicon));
  const missing = [
    ...new Set(
      tokensOf(query, lexicon)
        .filter(({ stem, joining }) => !joining && !all.has(stem))
        .map(({ word }) => word),
    ),
  ];
  const place: QueryPlace =
    wanted.length > 0 && at === 0
      ? 'front'
      : wanted.length > 0 && at > 0
        ? 'within'
        : missing.length === 0
          ? 'words'
          : missing.length < wanted.length
            ? 'parts'
            : 'absent';
  return { place, missing };
}

function ballastOf(draft: string, { address, year }: DraftBasis): string[] {
  const found: string[] = [];
  const brand = address === null ? null : brandAtEnd(draft, address);
  if (brand !== null && brand.length > 0.3 * draft.length)
    found.push(`${Math.round((100 * brand.length) / draft.length)}% of it is the name of the site`);
  for (const text of draft.match(/(?<!\d)20\d\d(?!\d)/g) ?? [])
    if (Number(text) < year) found.push(`the year ${text} has passed`);
  return found;
}
