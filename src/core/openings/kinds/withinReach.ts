import { count, metricValue, plural } from '../../words/format';
import { QUERIES_OF_PAGE, type KindDescription } from './kind';

/** Queries at which a page is just off the first page, or low on it. */
export const withinReach: KindDescription = {
  name: 'within reach',
  sentence: (of) =>
    `Seen ${plural(of('impressions'), 'time')} at ${metricValue('position', of('position'))}; what position ${of('target')} would bring. Rules of thumb say ${count(of('ceiling'))} clicks (all seen, at 20%) and weigh it ${count(of('potential'))} (impressions × position).`,
  remedy: { kind: 'body-copy', metric: 'clicks', what: 'Say more of' },
  rows: QUERIES_OF_PAGE,
  fitsExperiment: true,
};
