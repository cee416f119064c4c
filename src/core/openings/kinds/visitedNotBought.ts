import { count, plural } from '../../words/format';
import { QUERIES_OF_PAGE, type KindDescription } from './kind';

/** Landing pages whose visits convert less than those of pages like it. */
export const visitedNotBought: KindDescription = {
  name: 'visited, not bought',
  sentence: (of) =>
    `${plural(of('sessions'), 'visit')} and ${plural(of('conversions'), 'conversion')}, where ${count(of('usual'))} would be usual on pages like it: further off than chance allows.`,
  remedy: { kind: 'body-copy', metric: 'clicks', what: 'What visitors do on' },
  rows: QUERIES_OF_PAGE,
  fitsExperiment: false,
};
