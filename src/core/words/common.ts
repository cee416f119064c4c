import { pagePath } from '../address/address';

/**
 * The first path segment of more than half of the URLs; null if there is none.
 *
 * @example
 * commonPart(['https://a.example/shop/x', 'https://a.example/shop/y', 'https://a.example/']) //
 * "/shop/"
 */
export function commonPart(addresses: readonly string[]): string | null {
  const counts = new Map<string, number>();
  for (const address of addresses) {
    const part = /^\/[^/?#]+\/(?=[^?#])/.exec(pagePath(address))?.[0];
    if (part) counts.set(part, (counts.get(part) ?? 0) + 1);
  }
  const [most] = [...counts].sort((a, b) => b[1] - a[1] || (a[0] < b[0] ? -1 : 1));
  return most && most[1] * 2 > addresses.length ? most[0] : null;
}

/** The words of a text that say something: of three letters and more, in lower case, each once. */
export function wordsOf(text: string): Set<string> {
  return new Set(
    text
      .toLowerCase()
      .split(/[^\p{L}\p{N}]+/u)
      .filter((word) => word.length > 2),
  );
}

/**
 * A word characterises a group from this share of the group, and this multiple of its overall
 * share.
 */
const [LEAST_PART, LEAST_TIMES] = [0.06, 1.6];

/**
 * Characteristic words of each group, from the weight of each word in each group.
 *
 * @example
 * tellingWords([new Map([['smoker', 5], ['bee', 5]]), new Map([['honey', 5], ['bee', 5]])])
 * // [["smoker"], ["honey"]]
 */
export function tellingWords(groups: readonly ReadonlyMap<string, number>[], most = 2): string[][] {
  const sum = (group: ReadonlyMap<string, number>) => [...group.values()].reduce((a, b) => a + b, 0);
  const whole = groups.reduce((total, group) => total + sum(group), 0);
  const inAll = new Map<string, number>();
  for (const group of groups)
    for (const [word, weight] of group) inAll.set(word, (inAll.get(word) ?? 0) + weight);
  return groups.map((group) => {
    const own = sum(group);
    return [...group]
      .map(([word, weight]) => ({
        word,
        part: weight / own,
        times: (weight / own / inAll.get(word)!) * whole,
      }))
      .filter(({ part, times }) => part >= LEAST_PART && times >= LEAST_TIMES)
      .sort((a, b) => b.part - a.part || (a.word < b.word ? -1 : 1))
      .slice(0, most)
      .map(({ word }) => word);
  });
}
