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

/** Share of the impressions, or of the days led, from which a page competes for a query. */
const [LEAST_SHARE, LEAST_LED] = [0.15, 0.15];
/** A page leads a day decisively with this share of the day's impressions. */
const DECISIVE = 0.6;
/** Fewer decisive changes of the lead are one page replacing another, or chance. */
const LEAST_TURNS = 3;
/**
 * Standard deviation of a page’s daily share beyond sampling noise; pages side by side stay below
 * it.
 */
const LEAST_SWING = 0.15;
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
  /** How many times the decisive lead went to another page. */
  readonly turns: number;
  /** Standard deviation of the first page’s daily share of impressions, without sampling noise. */
  readonly swing: number;
};

/**
 * Whether pages of a site compete for a query: the lead changes decisively several times, and daily
 * shares vary by more than counting noise. Both may appear every day; absence isn’t needed. Null if
 * one page owns the query, one replaced the other, or they stand side by side.
 */
export function sharedQuery(pages: readonly PageOnQuery[]): SharedQuery | null {
  const total = pages.reduce((sum, page) => sum + page.impressions, 0);
  if (total === 0) return null;
  const days = daysOf(pages);
  const led = new Map<number, number>();
  let [turns, several] = [0, 0];
  let leader: number | null = null;
  for (const { shown, all } of days) {
    const first = shown.reduce((best, one) => (one.impressions > best.impressions ? one : best));
    led.set(first.pageId, (led.get(first.pageId) ?? 0) + 1);
    if (shown.length > 1) several += 1;
    if (first.impressions < DECISIVE * all) continue;
    if (leader !== null && leader !== first.pageId) turns += 1;
    leader = first.pageId;
  }
  const parts = pages
    .map(({ pageId, impressions, position }) => ({
      ...{ pageId, share: impressions / total, led: (led.get(pageId) ?? 0) / days.length },
      position: position ?? Infinity,
    }))
    .filter(({ share, led: lead }) => share >= LEAST_SHARE && lead >= LEAST_LED)
    .sort((a, b) => b.share - a.share);
  if (parts.length < 2 || turns < LEAST_TURNS) return null;
  const swing = shareSwing(days, parts[0]!.pageId);
  const [best, second] = [...parts].sort((a, b) => a.position - b.position);
  if (swing < LEAST_SWING || second!.position - best!.position > APART) return null;
  return { pages: parts, together: several / days.length, turns, swing };
}

type DayShown = {
  readonly shown: readonly { readonly pageId: number; readonly impressions: number }[];
  readonly all: number;
};

/** What was shown of each page day by day, the first day first. */
function daysOf(pages: readonly PageOnQuery[]): DayShown[] {
  const byDay = new Map<number, { pageId: number; impressions: number }[]>();
  for (const { pageId, days } of pages)
    for (const { day, impressions } of days) {
      const shown = byDay.get(day) ?? [];
      byDay.set(day, shown);
      shown.push({ pageId, impressions });
    }
  return [...byDay]
    .sort(([a], [b]) => a - b)
    .map(([, shown]) => ({ shown, all: shown.reduce((sum, one) => sum + one.impressions, 0) }));
}

/**
 * Standard deviation of a page’s true daily share: the larger of the variance of daily shares less
 * binomial noise, and the covariance of consecutive days, which has no counting noise.
 */
function shareSwing(days: readonly DayShown[], pageId: number): number {
  const shares = days.map(({ shown, all }) => ({
    share: (shown.find((one) => one.pageId === pageId)?.impressions ?? 0) / all,
    all,
  }));
  const total = shares.reduce((sum, { all }) => sum + all, 0);
  const mean = shares.reduce((sum, { share, all }) => sum + all * share, 0) / total;
  let [variance, covariance, pairs] = [0, 0, 0];
  shares.forEach(({ share, all }, i) => {
    variance += all * (share - mean) ** 2;
    const next = shares[i + 1];
    if (!next) return;
    const weight = Math.sqrt(all * next.all);
    covariance += weight * (share - mean) * (next.share - mean);
    pairs += weight;
  });
  const noise = (shares.length * mean * (1 - mean)) / total;
  const followed = pairs > 0 ? covariance / pairs : 0;
  return Math.sqrt(Math.max(0, variance / total - noise, followed));
}
