import { plural } from '../../words/format';
import { QUERIES_OF_PAGE, type KindDescription } from './kind';
import { list, quoted } from './phrases';

/** Pages with few internal links, though other pages mention their topic. */
export const unlinked: KindDescription = {
  name: 'unlinked',
  sentence: (of, { pages = [], words = [] }) =>
    pages.length > 0
      ? `Linked from ${plural(of('linkedFrom'), 'page')}; ${list(pages.map(({ path }) => path))} ${pages.length === 1 ? 'speaks' : 'speak'} of the same and ${pages.length === 1 ? 'does' : 'do'} not link to it${words.length > 0 ? `: ${quoted(words)}` : ''}.`
      : `No page of the site links to it, as far as they were fetched.`,
  remedy: { kind: 'internal-links', metric: 'clicks', what: 'Links to' },
  rows: QUERIES_OF_PAGE,
  fitsExperiment: false,
};
