/*
 * Title features: a year, a number, brackets, a question, a separator, the brand at the end, strong
 * words.
 */

/** Which marks a title has. */
export const TITLE_MARKS = [
  ...(['year', 'number', 'brackets', 'question', 'separator', 'brand', 'strong'] as const),
] as const;
export type TitleMark = (typeof TITLE_MARKS)[number];

export const TITLE_MARK_NAMES: Readonly<Record<TitleMark, string>> = {
  year: 'a year',
  number: 'a number',
  brackets: 'brackets',
  question: 'a question',
  separator: 'a separator',
  brand: 'the brand at the end',
  strong: 'a strong word',
};

/** Words that promise: common practice, no published source. */
const STRONG = new Set(
  (
    'best ultimate complete essential proven easy easiest simple free fast quick definitive expert top ' +
    'beste ultimativ komplett einfach kostenlos schnell meilleur ultime complet facile gratuit rapide ' +
    'mejor definitiva completa fácil gratis rápido migliore completo veloce'
  ).split(' '),
);
const SEPARATOR = /\s[|–—·•»/-]\s|\s?[|–—•»]\s?|:\s/u;
const QUESTION = /[?？؟]|^(?:how|what|why|when|where|which|who|can|should|is|are|do|does)\b/i;

/**
 * The features of a title. The brand at the end (the last part, if the host name contains its
 * words) needs the URL.
 *
 * @example
 * marksOf('5 Wax Molds (2026) | Comb & Co', 'https://combandco.example/')
 * // year, number, brackets, separator, brand
 */
export function marksOf(title: string, address: string | null = null): Set<TitleMark> {
  const found = new Set<TitleMark>();
  const years: string[] = title.match(/(?<!\d)(?:19|20)\d\d(?!\d)/g) ?? [];
  if (years.length > 0) found.add('year');
  if ((title.match(/\d+(?:[.,]\d+)*/g) ?? []).some((number) => !years.includes(number))) found.add('number');
  if (/[([{（【].+[)\]}）】]/u.test(title)) found.add('brackets');
  if (QUESTION.test(title)) found.add('question');
  if (SEPARATOR.test(title)) found.add('separator');
  if (address !== null && brandAtEnd(title, address) !== null) found.add('brand');
  const words = title.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? [];
  if (words.some((word) => STRONG.has(word))) found.add('strong');
  return found;
}

/**
 * The site name at the end of a title; null if there is none.
 *
 * @example
 * brandAtEnd('Winter Feeding | Quillow Bee Yard', 'https://www.quillow-bees.example/')
 * // "Quillow Bee Yard"
 */
export function brandAtEnd(title: string, address: string): string | null {
  const parts = title.split(/\s[|–—·•»-]\s|\s?[|•»]\s?/u);
  const last = parts.at(-1)?.trim() ?? '';
  if (parts.length < 2 || last === '' || !URL.canParse(address)) return null;
  const host = new URL(address).hostname.replace(/^www\./, '').replaceAll(/[^\p{L}\p{N}]/gu, '');
  const words = last.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? [];
  const telling = words.filter((word) => word.length > 2);
  return words.length <= 5 && telling.some((word) => host.includes(word)) ? last : null;
}
