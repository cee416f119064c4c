/**
 * Order that sorts rows by columns, the first column most significant. Stable, which lets a later
 * line of a file be told from an earlier one: least-significant-digit radix sort on bytes, linear.
 * Columns hold integers from 0 to 2^32 − 1.
 *
 * Source: Knuth, The Art of Computer Programming, vol. 3, 5.2.5 (from memory).
 *
 * @example radixOrder(3, [[2, 1, 1], [0, 9, 4]]) // Uint32Array [2, 1, 0]
 */
export function radixOrder(rows: number, columns: readonly ArrayLike<number>[]): Uint32Array {
  let order = new Uint32Array(rows);
  for (let i = 0; i < rows; i++) order[i] = i;
  let spare = new Uint32Array(rows);
  const count = new Uint32Array(257);
  for (let c = columns.length - 1; c >= 0; c--) {
    const column = columns[c]!;
    let [most, least] = [0, 0xffffffff];
    for (let i = 0; i < rows; i++) {
      const value = column[i]! >>> 0;
      if (value > most) most = value;
      if (value < least) least = value;
    }
    // Bytes above the highest in which any two differ need no pass.
    const differing = most - least;
    if (rows === 0 || differing === 0) continue;
    for (let shift = 0; shift < 32 && differing >= 2 ** shift; shift += 8) {
      count.fill(0);
      for (let i = 0; i < rows; i++) count[((((column[i]! >>> 0) - least) >>> shift) & 255) + 1]!++;
      for (let b = 1; b < 257; b++) count[b]! += count[b - 1]!;
      for (let i = 0; i < rows; i++) {
        const row = order[i]!;
        spare[count[(((column[row]! >>> 0) - least) >>> shift) & 255]!++] = row;
      }
      [order, spare] = [spare, order];
    }
  }
  return order;
}
