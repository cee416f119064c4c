/* Drafts from a pattern, such as "{target} · {what} ({year})". */

/** What a pattern can name. */
export const PATTERN_NAMES = ['target', 'title', 'heading', 'what', 'site', 'year'] as const;
export type PatternName = (typeof PATTERN_NAMES)[number];
export type PatternValues = Readonly<Partial<Record<PatternName, string>>>;

const PLACE = /\{(\w+)\}/g;

/** Says what is wrong with a pattern; null where it can be filled in. */
export function patternProblem(pattern: string): string | null {
  if (pattern.trim() === '') return 'The pattern is empty.';
  const unknown = [...pattern.matchAll(PLACE)].map(([, name]) => name!).find((name) => !isName(name));
  if (unknown)
    return `There is no {${unknown}}; a pattern can name ${PATTERN_NAMES.map((name) => `{${name}}`).join(', ')}.`;
  return /[{}]/.test(pattern.replace(PLACE, '')) ? 'A brace is left open.' : null;
}

const isName = (name: string): name is PatternName => (PATTERN_NAMES as readonly string[]).includes(name);

/**
 * Fills in a pattern. An absent value takes its separator with it.
 *
 * @example
 * filledIn('{target} · {what} ({year})', { target: 'Wax molds', year: '2026' }) // "Wax molds
 * (2026)"
 */
export function filledIn(pattern: string, values: PatternValues): string {
  const text = pattern.replace(PLACE, (_, name: string) => (isName(name) ? (values[name] ?? '\u0000') : ''));
  return text
    .replace(/\s*[([{]\u0000[)\]}]/g, '')
    .replace(/\s*[·|–—:,-]\s*\u0000|\u0000\s*[·|–—:,-]\s*|\u0000/g, ' ')
    .replace(/\s+/g, ' ')
    .replace(/^[\s·|–—:,-]+|[\s·|–—:,-]+$/g, '')
    .replace(/^\p{Ll}/u, (letter) => letter.toUpperCase());
}
