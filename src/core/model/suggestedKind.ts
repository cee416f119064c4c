/* The type of a change, as its words and the fields that are filled in suggest it. */

/**
 * Words by which a type is known, the more telling ones first: "title" in "JSON-LD title" is about
 * structured data.
 */
const WORDS: readonly (readonly [kind: string, words: RegExp])[] = [
  [
    'reindex-request',
    /\b(?:re-?index(?:ing|ed)?|request(?:ed)? indexing|fetch (?:&|and|\+) request|re-?crawl(?:ed)?|crawl request|url inspection|inspect(?:ed)?)\b/i,
  ],
  ['undo', /\b(?:undo|undid|revert(?:ed)?|roll(?:ed)? ?back)\b/i],
  ['structured-data', /\b(?:structured|schema(?:\.org)?|json-?ld|rich results?|mark-?up)\b/i],
  ['meta-description', /\b(?:meta )?desc(?:ription)?s?\b|\bsnippets?\b/i],
  ['indexing-directives', /\b(?:no-?index|robots(?:\.txt)?|sitemap|hreflang|canonicals?|indexing)\b/i],
  ['address-or-redirect', /\b(?:redirect(?:s|ed)?|301|302|urls?|address|slugs?|moved)\b/i],
  ['title-rewrite', /\btitles?\b|\bheadlines? in results\b/i],
  ['headings', /\b(?:h[1-6]s?|headings?|headlines?|subheads?)\b/i],
  ['internal-links', /\b(?:links?|linked|linking)\b/i],
  ['media', /\b(?:images?|photos?|pictures?|videos?|media|alt)\b/i],
  ['speed', /\b(?:speed|performance|faster|lcp|cls|inp|vitals|lazy ?load\w*|compress\w*)\b/i],
  ['off-page', /\b(?:backlinks?|outreach|off-?page|digital pr)\b/i],
  ['body-copy', /\b(?:copy|text|body|paragraphs?|sections?|content|rewrote|rewrite|rewritten|faq|intro)\b/i],
  ['publish-date', /\b(?:publish\w*|dates?|last updated)\b/i],
];

/**
 * The type that a change's words suggest; null where they suggest none.
 * @example suggestedKind('Meta desc rewritten, CTR up') // "meta-description"
 * @example suggestedKind('Fetch & request indexing') // "reindex-request"
 */
export function suggestedKind(words: string): string | null {
  return WORDS.find(([, pattern]) => pattern.test(words))?.[0] ?? null;
}
