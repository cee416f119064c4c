/* What one kind of change brought, for those who are about to make another. */

import type { BookSource } from './book';
import { scoreLine, scoreLines, type ScoreLine } from './scorebook';
import { changeKindsName } from '../model/change';
import { lineSentence } from './scorebookSentence';

/** The line of a kind with its sentence, and for titles those of its marks. */
export type KindScore = {
  readonly line: ScoreLine;
  readonly sentence: string;
  readonly marks: readonly { readonly line: ScoreLine; readonly sentence: string }[];
};

/** With fewer read nothing is said beforehand. */
const FEWEST_READ = 3;

/** What a kind brought; null where too few were read. */
export function kindScore({ scored }: Pick<BookSource, 'scored'>, kind: string): KindScore | null {
  const own = scored.filter((one) => one.kind === kind);
  if (own.length < FEWEST_READ) return null;
  const name = changeKindsName(kind);
  const line = scoreLine(kind, name, own);
  const marks = scoreLines(own, 'mark').filter(({ changes }) => changes >= FEWEST_READ);
  return {
    line,
    sentence: lineSentence(name, line),
    marks: marks.map((one) => ({ line: one, sentence: lineSentence(`With ${one.name}`, one) })),
  };
}
