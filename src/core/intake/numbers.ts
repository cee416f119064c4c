/*
 * Numbers as found in files: thousands separated by comma, point, apostrophe or (thin,
 * non-breaking) space, decimals by point or comma, with a percent or currency sign.
 */

const SPACES = /[\s\u00a0\u202f']/g;

/**
 * Parses a number; null if it isn’t one. A single separator before exactly three digits separates
 * thousands if `grouped` (money, counts), and decimals otherwise (positions). Of two different
 * separators the last is the decimal sign (common practice, no published source).
 *
 * @example readNumber("1.234,50", true) // 1234.5
 */
export function readNumber(text: string, grouped: boolean): number | null {
  let plain = text.trim();
  if (plain === '') return null;
  if (plain.endsWith('%')) plain = plain.slice(0, -1).trim();
  const sign = /^[-\u2212]/.test(plain) ? -1 : 1;
  if (sign < 0) plain = plain.slice(1);
  plain = plain.replace(/^(\p{Sc}|[A-Z]{3}\s)\s*|\s*(\p{Sc}|\s[A-Z]{3})$/gu, '').replace(SPACES, '');
  if (!/^\d[\d.,]*$/.test(plain) && !/^[.,]\d+$/.test(plain)) return null;
  const decimal = decimalSign(plain, grouped);
  if (decimal === 'none') return null;
  const [whole = '', fraction = '', ...more] = decimal === null ? [plain] : plain.split(decimal);
  if (more.length > 0) return null;
  const groups = whole.split(/[.,]/);
  if (groups.length > 1 && !(groups[0]!.length <= 3 && groups.slice(1).every((g) => g.length === 3)))
    return null;
  if (/[.,]/.test(fraction)) return null;
  return sign * Number(`${groups.join('') || '0'}.${fraction || '0'}`);
}

/** The decimal sign; null without decimals, `none` if the separators make no sense. */
function decimalSign(plain: string, grouped: boolean): '.' | ',' | null | 'none' {
  const [points, commas] = [plain.split('.').length - 1, plain.split(',').length - 1];
  if (points === 0 && commas === 0) return null;
  if (points > 0 && commas > 0) {
    const last = plain.lastIndexOf('.') > plain.lastIndexOf(',') ? '.' : ',';
    return (last === '.' ? points : commas) === 1 ? last : 'none';
  }
  const only = points > 0 ? '.' : ',';
  if (points + commas > 1) return null;
  const after = plain.length - 1 - plain.indexOf(only);
  return grouped && after === 3 && plain.indexOf(only) > 0 && !plain.startsWith('0') ? null : only;
}

/**
 * Parses a count, or returns a sentence on why it is none. `name` opens the sentence ("Clicks").
 */
export function readCount(text: string, name: string): number | string {
  // Nearly every count is plain digits.
  const quick = plainDigits(text);
  if (quick !== null) return quick;
  const trimmed = text.trim();
  if (trimmed === '') return `${name}: the cell is empty.`;
  const shown = trimmed.slice(0, 20);
  if (/^[-\u2212]\s*\d/.test(trimmed)) return `${name} cannot be negative (${shown}).`;
  const number = trimmed.endsWith('%') ? null : readNumber(trimmed, true);
  if (number === null || !Number.isInteger(number)) return `${name} is not a whole number (“${shown}”).`;
  return number < 1e12 ? number : `${name} is too large to be a count (${shown}).`;
}

function isPlainDecimal(text: string): boolean {
  const { length } = text;
  if (length === 0 || length > 15) return false;
  let point = -1;
  for (let i = 0; i < length; i++) {
    const code = text.charCodeAt(i);
    if (code === 46 && point === -1 && i > 0) point = i;
    else if (code < 48 || code > 57) return false;
  }
  return point !== length - 1;
}

function plainDigits(text: string): number | null {
  const { length } = text;
  if (length === 0 || length > 12) return null;
  let value = 0;
  for (let i = 0; i < length; i++) {
    const digit = text.charCodeAt(i) - 48;
    if (digit < 0 || digit > 9) return null;
    value = value * 10 + digit;
  }
  return value;
}

/** An amount such as revenue, or a sentence; absent (null) where the cell is empty. */
export function readAmount(text: string, name: string): number | null | string {
  const trimmed = text.trim();
  if (isAbsent(trimmed)) return null;
  const number = readNumber(trimmed, true);
  if (number === null) return `${name} is not a number (“${trimmed.slice(0, 20)}”).`;
  return Math.abs(number) < 1e15 ? number : `${name} is too large (${trimmed.slice(0, 20)}).`;
}

function isAbsent(trimmed: string): boolean {
  return trimmed === '' || trimmed === '-' || trimmed === '\u2013';
}

/**
 * Parses an average position with a decimal point or comma; null for an empty cell, a sentence
 * otherwise.
 */
export function readPosition(text: string): number | null | string {
  // Nearly every position is digits, a point and digits.
  if (isPlainDecimal(text)) return Number(text);
  const trimmed = text.trim();
  if (isAbsent(trimmed)) return null;
  const number = trimmed.endsWith('%') ? null : readNumber(trimmed, false);
  return number ?? `Position is not a number (“${trimmed.slice(0, 20)}”).`;
}
