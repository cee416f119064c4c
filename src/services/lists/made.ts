import type { ListLine } from '../../core/lists/line';
import type { FiguresTable, Side } from '../../core/lists/table';
import type { Site } from '../../core/model/site';
import type { Pairs } from '../../store/figures/pairs';
import { memoizePerContext } from '../site/siteContext';
import type { ListRequest } from './listRequest';

/** What a table is made for: lists that are filtered and sorted otherwise are of the same one. */
export type TableQuery = Pick<ListRequest, 'subject' | 'spans' | 'device'>;

/** A table, which of its rows are wanted by words, and what stands in a line. */
export type Made = {
  readonly table: FiguresTable;
  readonly wanted: (wish: ListRequest) => (row: number) => boolean;
  readonly line: (row: number) => ListLine;
  /** The page of a row; -1 where it has none. */
  readonly pageId: (row: number) => number;
};

/** Whether a text has all of the wanted words in it, and none of the others. */
export function holds(text: string, { words, without }: Pick<ListRequest, 'words' | 'without'>): boolean {
  if (words.length === 0 && without.length === 0) return true;
  const lower = text.toLowerCase();
  return words.every((word) => lower.includes(word)) && !without.some((word) => lower.includes(word));
}

/** What the clicks of each row are worth; null where nobody said what one is. */
export function worthOf({ worthOfClick }: Site, now: Side): ((row: number) => number) | null {
  return worthOfClick === null ? null : (row) => now.clicks[row]! * worthOfClick;
}

export const changesByPage = memoizePerContext(({ made }): ReadonlyMap<number, number> => {
  const counts = new Map<number, number>();
  for (const { pages } of made) for (const { id } of pages) counts.set(id, (counts.get(id) ?? 0) + 1);
  return counts;
});

/** What is made of the pairs of some spans once, and kept for as long as they are. */
export function perPairs<T extends object>(): (pairs: Pairs, make: () => T) => T {
  const kept = new WeakMap<Pairs, T>();
  return (pairs, make) => {
    const made = kept.get(pairs) ?? make();
    kept.set(pairs, made);
    return made;
  };
}
