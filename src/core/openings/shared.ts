/* Shared: a query that several pages of the site serve and none owns. */

/** A page's days for one query: clicks and impressions by day, days without showings left out. */
export type PageOnQuery = {
  readonly pageId: number;
  readonly impressions: number;
  readonly clicks: number;
  readonly position: number | null;
  /** Day, impressions, and mean position of that day. */
  readonly days: readonly { readonly day: number; readonly impressions: number; readonly position: number }[];
};

/** A page that had this much of the showings, or led on so many of the days, has a part in the query. */
const [LEAST_SHARE, LEAST_LED] = [0.15, 0.15];
/** Two pages on the same result page at once, on most days, serve the query together: that is no harm. */
const TOGETHER = 0.6;
/** Positions so far apart say that one of the two owns the query. */
const APART = 15;

export type SharedQuery = {
  /** The pages that have a part, the one with most showings first. */
  readonly pages: readonly {
    readonly pageId: number;
    readonly share: number;
    readonly led: number;
    readonly position: number;
  }[];
  /** Share of the days on which more than one of them was shown. */
  readonly together: number;
  /** How many times another page led than the day before. */
  readonly turns: number;
};

/**
 * Whether pages of a site take turns at a query; null where one of them owns it, or they stand in the results side by side. A day is led by
 * the page with most showings.
 */
export function sharedQuery(pages: readonly PageOnQuery[]): SharedQuery | null {
  const total = pages.reduce((sum, page) => sum + page.impressions, 0);
  if (total === 0) return null;
  const byDay = new Map<number, { pageId: number; impressions: number }[]>();
  for (const { pageId, days } of pages)
    for (const { day, impressions } of days) {
      const shown = byDay.get(day) ?? [];
      byDay.set(day, shown);
      shown.push({ pageId, impressions });
    }
  const led = new Map<number, number>();
  let [turns, several, last] = [0, 0, -1];
  for (const day of [...byDay.keys()].sort((a, b) => a - b)) {
    const shown = byDay.get(day)!;
    const first = shown.reduce((best, one) => (one.impressions > best.impressions ? one : best));
    led.set(first.pageId, (led.get(first.pageId) ?? 0) + 1);
    if (last !== -1 && last !== first.pageId) turns += 1;
    last = first.pageId;
    if (shown.length > 1) several += 1;
  }
  const days = byDay.size;
  const parts = pages
    .map(({ pageId, impressions, position }) => ({
      ...{ pageId, share: impressions / total, led: (led.get(pageId) ?? 0) / days },
      position: position ?? Infinity,
    }))
    .filter(({ share, led: lead }) => share >= LEAST_SHARE && lead >= LEAST_LED)
    .sort((a, b) => b.share - a.share);
  if (parts.length < 2) return null;
  const [best, second] = [...parts].sort((a, b) => a.position - b.position);
  const together = several / days;
  if (together > TOGETHER && turns < days / 5) return null;
  if (second!.position - best!.position > APART) return null;
  return { pages: parts, together, turns };
}
