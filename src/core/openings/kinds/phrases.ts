/* Lists of things within a sentence. */

/** @example list(['a', 'b', 'c']) // "a, b and c" */
export const list = (items: readonly string[]): string =>
  items.length < 2 ? items.join('') : `${items.slice(0, -1).join(', ')} and ${items.at(-1)}`;

/** @example quoted(['frost', 'feeder']) // "“frost” and “feeder”" */
export const quoted = (words: readonly string[]): string => list(words.map((word) => `“${word}”`));
