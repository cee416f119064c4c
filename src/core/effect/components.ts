/* The components that metrics are modelled by: log clicks are log impressions plus log CTR. */

import type { Metric } from '../model/change';

/** The components, each learned and read by itself. */
export const COMPONENTS = ['impressions', 'ctr', 'position'] as const;
export type Component = (typeof COMPONENTS)[number];

/**
 * The components of each metric. Clicks are impressions times CTR and are read as the two together: what a page was shown is
 * known well and keeps its level, while the CTR of few clicks is mostly chance and comes back by itself. Read as one,
 * the two dips could not be told apart.
 */
export const COMPONENTS_OF: Readonly<Record<Metric, readonly Component[]>> = {
  clicks: ['impressions', 'ctr'],
  impressions: ['impressions'],
  ctr: ['ctr'],
  position: ['position'],
};

/** A value for each component. @example byComponent((name) => name.length) // { impressions: 11, ctr: 3, position: 8 } */
export function byComponent<T>(of: (part: Component) => T): Record<Component, T> {
  return { impressions: of('impressions'), ctr: of('ctr'), position: of('position') };
}
