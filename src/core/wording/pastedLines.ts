/* Lines of a pasted result page: what belongs to results, and what stands around them. */

import type { ResultExtra } from './resultPage';

/** What is told of a result on a line of its own: stars, a price, a date. */
export type Meta = { readonly extras: readonly ResultExtra[]; readonly date: string | null };

const DATE = [
  /^\d{4}-\d{2}-\d{2}$/,
  /^\d{1,2}[./]\d{1,2}[./]\d{2,4}$/,
  /^\d{1,2}\.? [a-zäöü]{3,9}\.? \d{4}$/i,
  /^[a-z]{3,9}\.? \d{1,2}, \d{4}$/i,
  /^\d+ (?:minutes?|hours?|days?|weeks?|months?|years?) ago$/i,
];
const isDate = (text: string) => DATE.some((form) => form.test(text));
const VOTES = String.raw`(?: ?\(?[\d.,]+k?\+?(?: (?:ratings?|reviews?|votes?))?\)?)?`;
const RATING = String.raw`\d(?:[.,]\d)?`;
const STARS = [
  `(?:rating:? ?)?${RATING}(?: ?/ ?5| stars?| ?[★☆⭐]+)${VOTES}`,
  `[★☆⭐]+(?: ?${RATING}(?: ?/ ?5| stars?)?)?${VOTES}`,
  `rating:? ?${RATING}${VOTES}`,
].map((form) => new RegExp(`^${form}$`, 'i'));
const AMOUNT = String.raw`(?:[€$£¥] ?\d[\d.,]*|\d[\d.,]* ?(?:€|EUR|USD|GBP|CHF))`;
const PRICE = new RegExp(`^(?:from |ab )?${AMOUNT}(?: ?(?:to|–|-) ?${AMOUNT})?$`, 'i');
/** Small print beside stars and prices that says nothing of its own. */
const SMALL_PRINT =
  /^(?:in stock|out of stock|free (?:delivery|shipping|returns).*|\d+ ?(?:ratings?|reviews?|votes?))$/i;

/**
 * A line that only tells stars, prices, dates and small print about a result; null where it says
 * more.
 */
export function metaOf(line: string): Meta | null {
  const parts = line
    .split(/\s+[·•|–—]\s+|\s{2,}/)
    .map((part) => part.trim())
    .filter(Boolean);
  const extras = new Set<ResultExtra>();
  let date: string | null = null;
  for (const part of parts) {
    if (isDate(part)) date = part;
    else if (STARS.some((form) => form.test(part))) extras.add('stars');
    else if (PRICE.test(part)) extras.add('price');
    else if (!SMALL_PRINT.test(part)) return null;
  }
  return parts.length === 0 ? null : { extras: [...extras], date };
}

/** Splits a date that stands before a description: "14 Sep 2026 — Of silicone." */
export function dateBefore(text: string): { readonly date: string | null; readonly rest: string } {
  const match = /^(.{6,24}?)\s+[—–·-]\s+(.+)$/.exec(text);
  return match && isDate(match[1]!) ? { date: match[1]!, rest: match[2]! } : { date: null, rest: text };
}

/** What a heading among the lines begins: questions, related queries, or nothing that is read. */
export type Section = 'asked' | 'related' | 'results';

const SECTIONS: readonly (readonly [RegExp, Section])[] = [
  [/^(?:\p{L}+ ){0,4}(?:questions|asks?|asked)$|^questions(?: \p{L}+){0,4}$/iu, 'asked'],
  [
    /^(?:related|similar)(?: \p{L}+){0,2}$|^(?:\p{L}+ ){0,3}(?:searches|searched for|search for)$/iu,
    'related',
  ],
  [/^(?:(?:all|more|web) )?results$/i, 'results'],
];

/** The section that a line begins; null where it is no heading. */
export function sectionOf(line: string): Section | null {
  const plain = line.replace(/[:：]$/, '').trim();
  return SECTIONS.find(([words]) => words.test(plain))?.[1] ?? null;
}

/** Whether a line marks what follows as paid for. */
export const isAdMark = (line: string): boolean =>
  /^(?:ads?|advertisements?|anzeigen?|sponsored(?: results?)?|promoted)$/i.test(line.replace(/[:：]$/, ''));

/** A line without the mark of an ad before it, and whether it had one: "Ad · shop.example". */
export function withoutAdMark(line: string): { readonly ad: boolean; readonly text: string } {
  const match = /^(?:ad|anzeige|sponsored|promoted)\s*[·•|:–-]\s*(.+)$/i.exec(line);
  return match ? { ad: true, text: match[1]! } : { ad: false, text: line };
}

/**
 * Whether a line is the name of the site whose address follows or precedes it: its letters are
 * those of the host, or the other way round.
 * @example isSiteName('Quillow Bees', 'https://www.quillow-bees.example/wax') // true
 */
export function isSiteName(line: string, address: string): boolean {
  const host = address
    .replace(/^https?:\/\//i, '')
    .split(/[/›» ]/, 1)[0]!
    .replace(/^www\./i, '');
  const plain = (text: string) => text.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '');
  const label = plain(host.split('.').at(-2) ?? host);
  const name = plain(line);
  if (name.length < 3 || line.length > 40) return false;
  return name === label || name === plain(host) || (name.length >= 4 && label.startsWith(name));
}
