import { QUERIES_OF_PAGE, type KindDescription } from './kind';

/** Pages with findings, or that were not fetched for long. */
export const outOfOrder: KindDescription = {
  name: 'out of order',
  sentence: (_of, { findings = [] }) => findings.join(' '),
  remedy: { kind: 'other', metric: 'clicks', what: 'Put in order' },
  rows: QUERIES_OF_PAGE,
  fitsExperiment: false,
};
