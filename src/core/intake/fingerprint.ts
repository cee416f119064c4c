/**
 * A 32-bit FNV-1a hash of a row’s cells, which tells exact repeats of a line from lines that differ
 * in an unread column.
 *
 * Source: Fowler, Noll and Vo, IETF RFC 9923 (offset basis 2166136261, prime 16777619; from
 * memory), over UTF-16 code units.
 */
export function fingerprint(cells: readonly string[]): number {
  let hash = 2166136261;
  for (const cell of cells) {
    for (let i = 0; i < cell.length; i++) hash = Math.imul(hash ^ cell.charCodeAt(i), 16777619);
    // A separator outside the text, so that ["ab", "c"] and ["a", "bc"] differ.
    hash = Math.imul(hash ^ 0x1ffff, 16777619);
  }
  return hash >>> 0;
}
