import { compareKeys, copyRow, emptyFacts, firstRows, type Facts } from './facts';

/** Rows as they stood in a file: in any order, keys perhaps repeated. */
export type RawFacts = Facts & {
  /** Distinguishes rows that share a key but differ in columns that aren’t read; 0 if all are. */
  readonly part: Uint32Array;
};

/**
 * The rows of a piece, each key once, from the rows of a file that `order` lists between `from` and
 * `to` by key, part and line. A later line replaces an earlier one with the same key and part, and
 * counts as a repeat; parts of a key are summed.
 */
export function condense(
  raw: RawFacts,
  order: ArrayLike<number>,
  from: number,
  to: number,
): { facts: Facts; repeated: number } {
  const out = emptyFacts(to - from, raw.values.length);
  let [at, repeated] = [0, 0];
  for (let k = from; k < to; k++) {
    const i = order[k]!;
    const next = k + 1 < to ? order[k + 1]! : -1;
    if (next !== -1 && raw.part[i] === raw.part[next] && compareKeys(raw, i, raw, next) === 0) {
      repeated++;
    } else if (at > 0 && compareKeys(out, at - 1, raw, i) === 0) {
      out.values.forEach((column, v) => (column[at - 1]! += raw.values[v]![i]!));
    } else copyRow(raw, i, out, at++);
  }
  return { facts: firstRows(out, at), repeated };
}
