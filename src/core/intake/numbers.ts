/** A count read from text, or a sentence saying why it is none. `name` opens the sentence ("Clicks"). */
export function readCount(text: string, name: string): number | string {
  const trimmed = text.trim();
  if (/^\d+$/.test(trimmed)) return withinBounds(Number(trimmed), name, trimmed);
  if (trimmed === '') return `${name}: the cell is empty.`;
  if (/^[-\u2212]\s*\d/.test(trimmed)) return `${name} cannot be negative (${trimmed.slice(0, 20)}).`;
  // Thousands separators (1,234 or 1 234) and whole numbers written as decimals (12.0).
  if (/^\d{1,3}(?:([,.' \u00a0\u202f])\d{3})(?:\1\d{3})*$/.test(trimmed)) {
    return withinBounds(Number(trimmed.replace(/\D/g, '')), name, trimmed);
  }
  if (/^\d+[.,]0+$/.test(trimmed)) return withinBounds(parseInt(trimmed, 10), name, trimmed);
  return `${name} is not a whole number (“${trimmed.slice(0, 20)}”).`;
}

function withinBounds(n: number, name: string, text: string): number | string {
  return Number.isSafeInteger(n) && n < 1e12
    ? n
    : `${name} is too large to be a count (${text.slice(0, 20)}).`;
}

/** An average position read from text with a decimal point or comma; null where the cell is empty; else a sentence. */
export function readPosition(text: string): number | null | string {
  const trimmed = text.trim();
  if (trimmed === '' || trimmed === '-' || trimmed === '\u2013') return null;
  if (!/^[-\u2212]?\d+(?:[.,]\d+)?$/.test(trimmed))
    return `Position is not a number (“${trimmed.slice(0, 20)}”).`;
  return Number(trimmed.replace(',', '.').replace('\u2212', '-'));
}
