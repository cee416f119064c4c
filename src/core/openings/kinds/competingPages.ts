import { metricValue, plural, share } from '../../words/format';
import type { KindDescription } from './kind';
import { list } from './phrases';

/** Queries for which several pages of the site take turns. */
export const competingPages: KindDescription = {
  name: 'shared',
  sentence: (of, { pages = [] }) =>
    `${list(pages.map(({ path }) => path))} take turns: ${list(pages.map((page) => share(page.share ?? 0)))} of ${plural(of('impressions'), 'showing')}, leading on ${list(pages.map((page) => share(page.led ?? 0)))} of the days, at ${list(pages.map((page) => metricValue('position', page.position ?? null)))}.`,
  remedy: { kind: 'internal-links', metric: 'clicks', what: 'One page for' },
  rows: { of: 'query', by: 'impressions', title: 'Its pages' },
  fitsExperiment: false,
};
