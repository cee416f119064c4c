import type { Metric } from '../model/change';

/** What is learned and read by itself. */
export const PARTS = ['impressions', 'ctr', 'position'] as const;
export type Part = (typeof PARTS)[number];

/**
 * The parts of each metric. Clicks are impressions times CTR and are read as the two together: what a page was shown is
 * known well and keeps its level, while the CTR of few clicks is mostly chance and comes back by itself. Read as one,
 * the two dips could not be told apart.
 */
export const PARTS_OF: Readonly<Record<Metric, readonly Part[]>> = {
  clicks: ['impressions', 'ctr'],
  impressions: ['impressions'],
  ctr: ['ctr'],
  position: ['position'],
};

/** A value for each part. */
export function byPart<T>(of: (part: Part) => T): Record<Part, T> {
  return { impressions: of('impressions'), ctr: of('ctr'), position: of('position') };
}
