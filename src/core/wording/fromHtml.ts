/* Results from a saved page: linked headings with the text that follows. */

import { parse } from 'parse5';
import { attribute, collapsed, textOf, walk, type Element } from '../markup/tree';
import type { ReadResult, ReadResults } from './fromText';

/** A larger file is no result page that anybody saved. */
export const MOST_SAVED_BYTES = 5_000_000;
const MOST_DESCRIPTION = 400;
const HEADING = /^h[1-6]$/;
/** Elements whose text is no part of a result. */
const UNREAD = new Set([
  'script',
  'style',
  'noscript',
  'svg',
  'template',
  'iframe',
  'select',
  'textarea',
  'button',
  'nav',
  'footer',
]);

/**
 * Reads results from a saved page: linked headings, each with the text up to the next, and
 * questions printed as headings without a link. Nothing is run or fetched. A page without linked
 * headings is refused.
 */
export function resultsFromHtml(html: string): ReadResults & { readonly asked: readonly string[] } {
  const document = parse(html);
  const found: { address: string; title: string; text: string[] }[] = [];
  const asked: string[] = [];
  let open: Element | null = null;
  let link: string | null = null;
  walk(document, {
    enter: (element) => {
      if (UNREAD.has(element.tagName) || attribute(element, 'hidden') !== null) return false;
      if (element.tagName === 'a') link = absolute(attribute(element, 'href'));
      if (!HEADING.test(element.tagName)) return true;
      const title = collapsed(textOf(element));
      const address = link ?? absolute(linkWithin(element));
      if (title !== '' && address !== null) {
        found.push({ address, title, text: [] });
        open = element;
      } else if (/[?？]$/.test(title)) asked.push(title);
      // Its own text is its title already.
      return false;
    },
    leave: (element) => {
      if (element.tagName === 'a') link = null;
    },
    text: (value) => {
      const last = found.at(-1);
      if (open && last && collapsed(value) !== '') last.text.push(value);
    },
  });
  const seen = new Set<string>();
  const results = found
    .filter(({ address, title }) => !seen.has(`${address} ${title}`) && seen.add(`${address} ${title}`))
    .map(({ address, title, text }, i): ReadResult => ({
      ...{ rank: i + 1, address, title: title.slice(0, 500) },
      description: collapsed(text.join(' ')).slice(0, MOST_DESCRIPTION) || null,
      ...{ kind: null, dateShown: null, extras: [] },
    }));
  if (results.length === 0)
    return {
      ...{ results: [], asked: [] },
      problem:
        'This page has no headings that are links to other sites, so it does not look like a page of results. Paste the results as text instead.',
    };
  return { results, asked: [...new Set(asked)].slice(0, 50), problem: null };
}

function linkWithin(element: Element): string | null {
  let href: string | null = null;
  walk(element, {
    enter: (inner) => {
      if (inner.tagName === 'a') href ??= attribute(inner, 'href');
      return true;
    },
  });
  return href;
}

/** An address on the web; null for parts of the saved page itself. */
function absolute(href: string | null): string | null {
  if (href === null || !/^https?:\/\//i.test(href) || !URL.canParse(href)) return null;
  const url = new URL(href);
  // A link that leads by way of the searched site names where it goes.
  for (const value of url.searchParams.values())
    if (/^https?:\/\//i.test(value) && URL.canParse(value)) return value;
  return href;
}
