/* The type of a change, as its words and the fields that are filled in suggest it. */

/** Words by which a type is known, the more telling ones first: "title" in "JSON-LD title" is about structured data. */
const WORDS: readonly (readonly [kind: string, words: RegExp])[] = [
  [
    'reindex-request',
    /\b(?:re-?index(?:ing)?|request(?:ed)? indexing|fetch (?:&|and) request|crawl request)\b/i,
  ],
  ['undo', /\b(?:undo|undid|revert(?:ed)?|roll(?:ed)? ?back)\b/i],
  ['structured-data', /\b(?:structured data|schema(?:\.org)?|json-?ld|rich results?|faq ?markup|markup)\b/i],
  ['meta-description', /\b(?:meta )?desc(?:ription)?s?\b/i],
  ['address-or-redirect', /\b(?:redirect(?:s|ed)?|301|302|url|slug|moved to|canonical)\b/i],
  ['indexing-directives', /\b(?:no-?index|robots(?:\.txt)?|sitemap|hreflang)\b/i],
  ['title-rewrite', /\b(?:meta )?titles?\b/i],
  ['headings', /\b(?:h[1-6]s?|headings?|headlines?|subheads?)\b/i],
  ['internal-links', /\b(?:internal )?link(?:s|ed|ing)?\b/i],
  ['media', /\b(?:images?|photos?|pictures?|videos?|alt texts?)\b/i],
  ['speed', /\b(?:speed|faster|lcp|cls|inp|core web vitals|lazy ?load\w*|compress\w*)\b/i],
  ['publish-date', /\b(?:publish(?:ed|ing)? date|dates? (?:updated|refreshed)|last updated)\b/i],
  ['off-page', /\b(?:backlinks?|outreach|off-?page|digital pr)\b/i],
  ['body-copy', /\b(?:copy|text|paragraphs?|sections?|content|rewrote|rewritten|faq|intro)\b/i],
];

/**
 * The type that a change's words suggest; null where they suggest none.
 * @example suggestedKind('Meta desc rewritten, CTR up') // "meta-description"
 * @example suggestedKind('Fetch & request indexing') // "reindex-request"
 */
export function suggestedKind(words: string): string | null {
  return WORDS.find(([, pattern]) => pattern.test(words))?.[0] ?? null;
}
