import { addDays, isoDay, type Day } from '../core/calendar/day';
import type { SimulatedWorld } from '../jobs/simulatedWorld';
import { PAGES, SITE, type DemoPage } from './pages';
import { CHANGES, DAYS } from './story';

/*
 * The pages of the made-up site as they are served, what its people did to them without logging it, and which of them are
 * watched. Days are days before the last day of figures, as in the story.
 */

/** Pages from this many searches a day on are often visited. */
const BUSY = 200;

export const WATCHED = [
  '/guides/queen-excluders/',
  '/guides/beekeeping-costs/',
  '/guides/foundation/',
  '/guides/winter-feeding/',
  '/shop/fondant/',
  '/shop/feeders/',
  '/shop/gift-sets/',
  '/shop/candle-moulds/',
] as const;

/** Days on which the watched pages were fetched; they were fetched on all others too, and were the same. */
export const LOOKED_AGO = [40, 25, 16, 10, 6, 1];

function asSentence(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}

/** The first title, description and so on that the story knows of a page. */
function firstText(path: string, kind: string): string | undefined {
  return CHANGES.find((change) => change.kind === kind && change.oldText && change.pages.includes(path))
    ?.oldText;
}

/** The title that a page had at first. */
export function titleOfPage(path: string): string {
  const [topic = ''] = PAGES.find((page) => page.path === path)?.queries ?? [];
  return firstText(path, 'title-rewrite') ?? `${asSentence(topic)} | ${SITE.name}`;
}

function pageOf({ path, queries }: DemoPage): SimulatedWorld['pages'][string] {
  const [topic = '', ...others] = queries.map(asSentence);
  return {
    title: titleOfPage(path),
    description:
      firstText(path, 'meta-description') ?? `${topic}: ${others.slice(0, 2).join(', ').toLowerCase()}.`,
    heading: topic,
    sections: others.slice(0, 4).map((heading) => ({
      heading,
      text: `What there is to know about “${heading.toLowerCase()}”, from the people at ${SITE.name}, who look after forty hives of their own.`,
    })),
    types: path.startsWith('/guides/') ? ['Article'] : [],
    links: ['/guides/', '/shop/', '/calendar/'],
  };
}

/** The made-up site around a last day of figures. */
export function demoWorld(lastDay: Day): SimulatedWorld {
  const ago = (days: number) => isoDay(addDays(lastDay, -days));
  const pages = Object.fromEntries(PAGES.map((page) => [page.path, pageOf(page)]));
  const lastYear = Number(isoDay(lastDay).slice(0, 4)) - 1;
  const put = (path: string, over: Partial<SimulatedWorld['pages'][string]>) => {
    pages[path] = { ...pages[path]!, ...over };
  };
  put('/guides/beekeeping-costs/', {
    title: `What beekeeping really costs in the first year, counted again for ${lastYear}`,
  });
  put('/guides/foundation/', { title: 'Foundation', heading: '' });
  put('/shop/foundation/', { title: 'Foundation' });
  const excluders = pages['/guides/queen-excluders/']!;
  const feeders = pages['/shop/feeders/']!;
  const inStock = (n: number) => ({
    sections: [{ heading: 'In stock', text: `There are ${n} rapid feeders in stock.` }, ...feeders.sections],
  });
  return {
    firstDay: ago(DAYS),
    pages,
    busy: PAGES.filter(({ interest }) => interest >= BUSY).map(({ path }) => path),
    edits: [
      { day: ago(90), path: '/shop/feeders/', page: inStock(31) },
      { day: ago(18), path: '/shop/feeders/', page: inStock(26) },
      { day: ago(17), path: '/shop/fondant/', page: { types: ['Product'] } },
      {
        day: ago(8),
        path: '/guides/queen-excluders/',
        page: {
          title: 'Queen excluders: which gap, and when to fit one',
          heading: 'Queen excluders, and when to do without',
          sections: [
            ...excluders.sections,
            {
              heading: 'When to do without',
              text: 'A strong colony on one brood box fills its supers sooner without one, and the queen seldom follows.',
            },
          ],
        },
      },
    ],
  };
}
