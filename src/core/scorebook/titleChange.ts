/* Title features that a rewrite adds or removes. */

import { marksOf, type TitleMark } from '../wording/marks';
import { measured, TITLE_ROOM } from '../wording/room';
import { tokensOf } from '../wording/tokens';
import type { Lexicon } from '../words/stems';

export const TITLE_CHANGE_MARKS = [
  ...(['year', 'number', 'brackets', 'question', 'brand-dropped', 'shorter', 'target-to-front'] as const),
] as const;
export type TitleChangeMark = (typeof TITLE_CHANGE_MARKS)[number];

export const TITLE_CHANGE_MARK_NAMES: Readonly<Record<TitleChangeMark, string>> = {
  year: 'a year added',
  number: 'a number added',
  brackets: 'brackets added',
  question: 'a question made of it',
  'brand-dropped': 'the brand dropped',
  shorter: 'made shorter',
  'target-to-front': 'the target query to the front',
};

const ADDED: readonly (TitleMark & TitleChangeMark)[] = ['year', 'number', 'brackets', 'question'];
/** So many characters fewer are shorter. */
const SHORTER_BY = 5;

/** Titles of a page before and after; `address` is its URL, `target` its target query. */
export type TitleChange = {
  readonly oldText: string;
  readonly newText: string;
  readonly address: string;
  readonly target: string | null;
};

/**
 * The title features that a rewrite adds or removes.
 *
 * @example
 * titleChangeMarks({ oldText: 'Feeding bees', newText: 'Feeding bees (2026)', … })
 * // ["year", "brackets"]
 */
export function titleChangeMarks(
  { oldText, newText, address, target }: TitleChange,
  lexicon: Lexicon,
): TitleChangeMark[] {
  const [before, after] = [marksOf(oldText, address), marksOf(newText, address)];
  const found: TitleChangeMark[] = ADDED.filter((mark) => after.has(mark) && !before.has(mark));
  if (before.has('brand') && !after.has('brand')) found.push('brand-dropped');
  const length = (text: string) => measured(text, TITLE_ROOM).characters;
  if (length(newText) <= length(oldText) - SHORTER_BY) found.push('shorter');
  const place = (title: string) => (target === null ? -1 : networkOf(target, title, lexicon));
  if (place(newText) === 0 && place(oldText) !== 0) found.push('target-to-front');
  return found;
}

/** The marks that at least half of several pages' titles took on. */
export function commonMarks(changes: readonly TitleChange[], lexicon: Lexicon): TitleChangeMark[] {
  const all = changes.map((change) => new Set(titleChangeMarks(change, lexicon)));
  return TITLE_CHANGE_MARKS.filter(
    (mark) => all.length > 0 && 2 * all.filter((marks) => marks.has(mark)).length >= all.length,
  );
}

/** How many words of a title stand before those of a query; -1 where one of these is missing. */
function networkOf(query: string, title: string, lexicon: Lexicon): number {
  const telling = (text: string) => tokensOf(text, lexicon).filter(({ joining }) => !joining);
  const stems = telling(title).map(({ stem }) => stem);
  const places = telling(query).map(({ stem }) => stems.indexOf(stem));
  return places.length === 0 || places.includes(-1) ? -1 : Math.min(...places);
}
