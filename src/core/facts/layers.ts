import { packFacts, unpackPiece } from './pack';
import { compareKeys, copyRow, emptyFacts, firstRows, sameValues, type Facts } from './facts';

/**
 * Rows of a file, on top of earlier files. `vintage` is the day its figures were taken, per row
 * once layers are merged.
 */
export type Layered = {
  readonly facts: Facts;
  readonly vintage: Int32Array;
  /** Whether some rows may be divided by device or country; absent where that was not looked at. */
  readonly divided?: boolean;
};

/** A layer of which all rows were taken on the same day. */
export function layer(facts: Facts, vintage: number): Layered {
  return { facts, vintage: new Int32Array(facts.rows).fill(vintage) };
}

/**
 * How to read a piece: its first day, the values of its grain, and the day its rows were taken
 * unless its bytes say otherwise.
 */
export type PieceForm = {
  readonly firstDay: number;
  readonly values: number;
  readonly vintage: number;
  /** Columns to read it into; new ones unless said otherwise. */
  readonly columns?: Parameters<typeof unpackPiece>[3];
};

let vintages = new Int32Array(0);

/** One day for so many rows; good until it is asked for again. */
function sameVintage(rows: number, day: number): Int32Array {
  if (vintages.length < rows || vintages[0] !== day)
    vintages = new Int32Array(Math.max(rows, vintages.length)).fill(day);
  return vintages.subarray(0, rows);
}

/** A layer from the bytes of a piece. */
export function unpackLayer(bytes: Uint8Array, form: PieceForm): Layered {
  const { facts, vintage, divided } = unpackPiece(bytes, form.firstDay, form.values, form.columns);
  if (vintage) return { facts, vintage, divided };
  return {
    facts,
    vintage: form.columns ? sameVintage(facts.rows, form.vintage) : layer(facts, form.vintage).vintage,
    divided,
  };
}

/** The bytes of merged layers, from which they can be unpacked again. */
export function packLayer({ facts, vintage }: Layered, firstDay: number): Uint8Array {
  return packFacts(facts, firstDay, vintage);
}

/** The rows of two layers, of which the upper one stands where both have a key. */
function over(lower: Layered, upper: Layered): Layered {
  const [a, b] = [lower.facts, upper.facts];
  if (a.rows === 0) return upper;
  if (b.rows === 0) return lower;
  if (coversAll(a, b)) return upper;
  const out = emptyFacts(a.rows + b.rows, a.values.length);
  const vintage = new Int32Array(a.rows + b.rows);
  let [i, j, at] = [0, 0, 0];
  while (i < a.rows || j < b.rows) {
    const order = i === a.rows ? 1 : j === b.rows ? -1 : compareKeys(a, i, b, j);
    if (order < 0) {
      vintage[at] = lower.vintage[i]!;
      copyRow(a, i++, out, at++);
    } else {
      if (order === 0) i++;
      vintage[at] = upper.vintage[j]!;
      copyRow(b, j++, out, at++);
    }
  }
  return { facts: firstRows(out, at), vintage: vintage.subarray(0, at) };
}

/** Whether `upper` has every key of `lower`, as after importing the same days again. */
function coversAll(lower: Facts, upper: Facts): boolean {
  if (lower.rows > upper.rows) return false;
  let j = 0;
  for (let i = 0; i < lower.rows; i++) {
    while (j < upper.rows && compareKeys(upper, j, lower, i) < 0) j++;
    if (j === upper.rows || compareKeys(upper, j, lower, i) !== 0) return false;
    j++;
  }
  return true;
}

/** Merges layers given from the lowest to the uppermost; null where there are none. */
export function mergeLayers(layers: readonly Layered[]): Layered | null {
  if (layers.length <= 1) return layers[0] ?? null;
  // By halves, so that hundreds of thin layers are not each copied hundreds of times.
  const middle = layers.length >> 1;
  return over(mergeLayers(layers.slice(0, middle))!, mergeLayers(layers.slice(middle))!);
}

/** How many keys of `upper` stand in `lower` too, and of those how many carry other values. */
export function countReplaced(lower: Facts, upper: Facts): { replaced: number; changed: number } {
  let [i, j, replaced, changed] = [0, 0, 0, 0];
  while (i < lower.rows && j < upper.rows) {
    const order = compareKeys(lower, i, upper, j);
    if (order < 0) i++;
    else if (order > 0) j++;
    else {
      replaced++;
      if (!sameValues(lower, i++, upper, j++)) changed++;
    }
  }
  return { replaced, changed };
}
