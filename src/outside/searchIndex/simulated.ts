import { addDays, type Day } from '../../core/calendar/day';
import type { SearchIndex } from './searchIndex';

/** What a simulated index knows of the world. It is deterministic: the same world on the same day is answered alike. */
export type IndexedWorld = {
  readonly today: Day;
  /** From when on the world is known. */
  readonly firstDay: Day;
  /** The title of a page on a day; null where there is no such page. */
  readonly titleOn: (address: string, day: Day) => string | null;
  /** Days on which a reindex of a page was asked for. */
  readonly requestsOf: (address: string) => readonly Day[];
  /** Whether the page is one that is often visited, and so often crawled. */
  readonly busy: (address: string) => boolean;
};

/** A number from 0 to `below` - 1 that looks like chance. */
function chance(text: string, below: number): number {
  let hash = 2166136261;
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 16777619);
  return (hash >>> 0) % below;
}

/**
 * Answers as an index would: a request is served at once or within a day or two, later for quiet pages; without one a page is
 * crawled every week or two, quiet ones once a month; and the results show what was crawled some days after that.
 */
export function simulatedIndex(world: IndexedWorld): SearchIndex {
  const { today, firstDay, titleOn, requestsOf, busy } = world;

  const crawls = (address: string): Day[] => {
    const days = new Set<Day>();
    const [shortest, spread] = busy(address) ? [6, 8] : [20, 14];
    for (let day = firstDay; day <= today;) {
      day = addDays(day, shortest + chance(`${address} ${day}`, spread));
      days.add(day);
    }
    for (const asked of requestsOf(address)) {
      const late = busy(address) ? chance(`${address}?${asked}`, 3) : 3 + chance(`${address}?${asked}`, 6);
      days.add(addDays(asked, late));
    }
    return [...days].filter((day) => day <= today && titleOn(address, day) !== null).sort((a, b) => a - b);
  };

  return {
    crawledSince: async (address, since) => crawls(address).find((day) => day >= since) ?? null,
    shown: async (address) => {
      const known = crawls(address)
        .map((crawled) => ({
          title: titleOn(address, crawled)!,
          since: addDays(crawled, 1 + chance(`${address}!${crawled}`, 4)),
        }))
        .filter(({ since }) => since <= today);
      const last = known.at(-1);
      if (!last) return null;
      // What was crawled later and shown earlier stands; the same title may have been shown since an earlier crawl.
      const others = known.findLastIndex(({ title }) => title !== last.title);
      const since = Math.min(...known.slice(others + 1).map((one) => one.since)) as Day;
      return { title: last.title, since };
    },
  };
}
