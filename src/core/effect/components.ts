/* The components that measures are modelled by: log clicks are log showings plus log appeal. */

import type { Measure } from '../model/change';

/**
 * The components, each learned and read by itself: the levels of showings (the clicks that they would bring at the usual CTR by
 * position), impressions and position, and two rates, appeal (clicks over showings) and CTR (clicks over impressions).
 */
export const COMPONENTS = ['showings', 'appeal', 'impressions', 'ctr', 'position', 'rank'] as const;
export type Component = (typeof COMPONENTS)[number];

/**
 * The components of each measure. Clicks are showings times appeal and are read as the two together: what a page was shown
 * is known well and moves with others, while how often it is chosen is mostly chance and hardly needs a control.
 */
export const COMPONENTS_OF: Readonly<Record<Measure, readonly Component[]>> = {
  clicks: ['showings', 'appeal'],
  impressions: ['impressions'],
  ctr: ['ctr'],
  position: ['position'],
  appeal: ['appeal'],
  showings: ['showings'],
  rank: ['rank'],
};

/** Whether a component is a rate, counted in clicks, and not a level. */
export const isRate = (component: Component): boolean => component === 'appeal' || component === 'ctr';

/** A value for each component. @example byComponent((name) => name.length).ctr // 3 */
export function byComponent<T>(of: (component: Component) => T): Record<Component, T> {
  return {
    showings: of('showings'),
    appeal: of('appeal'),
    impressions: of('impressions'),
    ctr: of('ctr'),
    position: of('position'),
    rank: of('rank'),
  };
}
