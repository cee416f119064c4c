import { compareKeys, copyRow, emptyFacts, firstRows, type Facts } from './facts';

/** Rows as they stood in a file: in any order, keys perhaps repeated. */
export type RawFacts = Facts & {
  /** Tells rows apart that share a key but differ in what is not read; 0 where everything is read. */
  readonly part: Uint32Array;
};

/**
 * The rows of one piece, each key once, from rows of a file of which `order` names those from `from` to `to` in the
 * order of their keys, then parts, then lines. A later line with the same key and part stands instead of an earlier
 * one, and is counted as a repeat; parts of one key are added up.
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
