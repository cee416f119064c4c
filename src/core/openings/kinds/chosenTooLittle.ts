import { count, share } from '../../words/format';
import type { KindDescription } from './kind';

/** Pages whose CTR is below what is usual here at the same queries and positions. */
export const chosenTooLittle: KindDescription = {
  name: 'chosen too little',
  sentence: (of) =>
    `Chosen ${share(1 - of('appeal') / of('usual'))} less often than is usual here at the same searches and positions: ${count(of('clicks'))} clicks where ${count(of('expected'))} would be usual.`,
  remedy: { kind: 'title-rewrite', metric: 'appeal', what: 'Title that is chosen more often' },
  rows: { of: 'page', by: 'missing', title: 'Its searches, by the clicks they lack' },
  fitsExperiment: true,
};
