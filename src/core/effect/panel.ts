/* The panel: the pages that a large site is represented by. */

import type { Series } from '../history/history';

/** At most so many pages make up the yardstick. Beyond the most clicked, a page adds work and next to no weight. */
const MOST_PAGES = 200;

/**
 * The pages that readings of a site are made from: the most clicked, then those that were changed. The first `yardstick` of
 * them make up the yardstick. `series` are all pages of the site, `changed` the ids of pages in any change.
 *
 * @example choosePanel(tenPages, new Set()).yardstick // 10: a small site is its own panel
 */
export function choosePanel(
  series: readonly Series[],
  changed: ReadonlySet<number>,
): { readonly series: readonly Series[]; readonly yardstick: number } {
  if (series.length <= MOST_PAGES) return { series, yardstick: series.length };
  const total = (one: Series) => {
    let [clicks, impressions] = [0, 0];
    for (let i = 0; i < one.clicks.length; i++) {
      clicks += one.clicks[i]!;
      impressions += one.impressions[i]!;
    }
    // Impressions decide between pages without clicks.
    return clicks + impressions / 1e6;
  };
  const ranked = series
    .map((one) => ({ one, total: total(one) }))
    .sort((a, b) => b.total - a.total || a.one.id - b.one.id);
  const panel = ranked.filter(({ one }, rank) => rank < MOST_PAGES || changed.has(one.id));
  return { series: panel.map(({ one }) => one), yardstick: MOST_PAGES };
}
