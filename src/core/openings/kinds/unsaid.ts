import { metricValue, plural } from '../../words/format';
import { QUERIES_OF_PAGE, type KindDescription } from './kind';
import { quoted } from './phrases';

/** Queries whose terms their page does not contain. */
export const unsaid: KindDescription = {
  name: 'unsaid',
  sentence: (of, { said }) =>
    said && said.missing.length > 0
      ? `Shown ${plural(of('impressions'), 'time')} for it at ${metricValue('position', of('position'))}, and says ${quoted(said.missing)} nowhere.`
      : `Shown ${plural(of('impressions'), 'time')} for it at ${metricValue('position', of('position'))}; its words stand in the page, but nowhere together.`,
  remedy: { kind: 'headings', metric: 'clicks', what: 'Say' },
  rows: QUERIES_OF_PAGE,
  fitsExperiment: true,
};
