import { unlinkedPages } from '../../core/openings/unlinked';
import { wordsOf } from '../../core/words/find';
import { sumIn } from '../../store/figures/pairs';
import { isHome, pathOf, type Work, type Found } from './work';

/** Pages for which links are sought, the most seen. */
const MOST_TARGETS = 100;
/** A page that so many others link to is linked well enough. */
const MOST_LINKED = 5;

export function unlinked(work: Work): Found[] {
  const { figures, evidence, span } = work;
  const pages = figures.pages([...evidence.keys()]);
  const idOf = new Map(pages.map(({ id, address }) => [address, id]));
  const named = new Set(wordsOf(work.context.site.name));
  const texts = pages.map(({ id }) => {
    const { title, text, links, headings } = evidence.get(id)!.evidence;
    const heading = headings.find(({ level }) => level === 1)?.text ?? '';
    return {
      ...{ pageId: id, title: title ?? heading, text },
      linksTo: new Set(links.flatMap((link) => idOf.get(link) ?? [])),
    };
  });
  const impressionsOf = new Map(
    figures.series.map((page) => [page.id, sumIn(page.impressions, page.firstDay, span)]),
  );
  const targets = [...impressionsOf]
    .filter(([id]) => evidence.has(id))
    .sort((a, b) => b[1] - a[1])
    .slice(0, MOST_TARGETS)
    .map(([id]) => id);
  return [...unlinkedPages(texts, targets)].flatMap(([pageId, { linkedFrom, candidates }]): Found[] => {
    if (candidates.length === 0 || linkedFrom > MOST_LINKED || isHome(work, pageId)) return [];
    const shown = candidates.slice(0, 2);
    return [
      {
        opening: {
          ...{ kind: 'unlinked', pageId, queryId: null, gain: null },
          figures: { linkedFrom, candidates: candidates.length, impressions: impressionsOf.get(pageId) ?? 0 },
        },
        named: {
          pages: shown.map(({ fromId }) => ({ path: pathOf(work, fromId) })),
          words: [...new Set(shown.flatMap(({ words }) => words))]
            .filter((word) => !named.has(word))
            .slice(0, 3),
        },
      },
    ];
  });
}
