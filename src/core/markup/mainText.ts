import { attribute, collapsed, HTML_NAMESPACE, walk, type Element } from './tree';
import type { DefaultTreeAdapterTypes } from 'parse5';

/** Elements whose content is never read as text. */
const UNREAD = new Set([
  'script',
  'style',
  'noscript',
  'iframe',
  'svg',
  'math',
  'select',
  'textarea',
  'head',
]);
/** Parts of a page that are about the site and not about the page. */
const AROUND = new Set(['nav', 'header', 'footer', 'aside']);
/** Elements that do not begin a new line; all others do. */
const INLINE = new Set(
  'a abbr b bdi bdo big cite code data del dfn em font i img ins kbd label mark output q s samp small span strike strong sub sup time tt u var wbr'.split(
    ' ',
  ),
);

/**
 * The main text of a page, a line per block: of its `main`, else of its only `article`, else of its
 * body without navigation, header, footer and asides.
 */
export function mainText(document: DefaultTreeAdapterTypes.Document): string {
  let main: Element | null = null;
  const articles: Element[] = [];
  walk(document, {
    enter: (element) => {
      if (element.namespaceURI !== HTML_NAMESPACE) return false;
      if (element.tagName === 'main' || attribute(element, 'role') === 'main') main ??= element;
      if (element.tagName === 'article') articles.push(element);
      return true;
    },
  });
  const [article] = articles;
  const root = main ?? (articles.length === 1 && article ? article : document);
  const lines: string[] = [];
  let line = '';
  const breakLine = () => {
    const text = collapsed(line);
    if (text !== '') lines.push(text);
    line = '';
  };
  walk(root, {
    text: (value) => {
      line += value;
    },
    enter: ({ tagName, attrs }) => {
      if (UNREAD.has(tagName) || attrs.some(({ name }) => name === 'hidden')) return false;
      if (root === document && AROUND.has(tagName)) return false;
      if (!INLINE.has(tagName)) breakLine();
      return true;
    },
    leave: ({ tagName }) => {
      if (!INLINE.has(tagName)) breakLine();
    },
  });
  breakLine();
  return lines.join('\n');
}
