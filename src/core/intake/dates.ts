import { addDays, dayFromDate, mondayOf, type Day } from '../calendar/day';

/** How the parts of a written date follow each other in one file. */
export type DateOrder = 'year-first' | 'day-first' | 'month-first';

/** What a date column says about its order. `ambiguous` must be asked; `none`: it has no date. */
export type DateOrderFinding = DateOrder | 'ambiguous' | 'none';

/** Stands for an order that nobody has settled yet. */
export const UNSETTLED = Symbol('unsettled');

// A time of day after the date is allowed and left out: rows are by day.
const TIME = String.raw`(?:(?:[Tt ]|, ?)\d{1,2}(?::?\d{2}.*|h.*| ?[ap]m)?)?`;
const YEAR_FIRST = new RegExp(String.raw`^(\d{4})([-/.]?)(\d{2})\2(\d{2})${TIME}$`);
const YEAR_LAST = new RegExp(String.raw`^(\d{1,2})([-/.])(\d{1,2})\2(\d{4}|\d{2})${TIME}$`);
/** “Nov 1, 2026”, “1 November 2026”, “1-Nov-26”: the month in English words. */
const MONTH_FIRST_WORDS = new RegExp(
  String.raw`^([a-z]{3,9})\.? (\d{1,2})(?:st|nd|rd|th)?,? (\d{4})${TIME}$`,
  'i',
);
const DAY_FIRST_WORDS = new RegExp(
  String.raw`^(\d{1,2})(?:st|nd|rd|th)?[- ]([a-z]{3,9})\.?,?[- ](\d{4}|\d{2})${TIME}$`,
  'i',
);
/** A day of an ISO week (ISO 8601): 2026-W45-3. */
const WEEK_DAY = /^(\d{4})-?W(\d{2})-?([1-7])$/;
const WEEK = /^(\d{4})-?W(\d{2})$/;
const MONTHS = ['jan', 'feb', 'mar', 'apr', 'may', 'jun', 'jul', 'aug', 'sep', 'oct', 'nov', 'dec'];

/** Years of two digits are those of this century: nobody has figures of the last one by then. */
const yearOf = (text: string) => (text.length === 2 ? 2000 + Number(text) : Number(text));

/** Parses an unambiguous date; null if it doesn’t exist, undefined if the text isn’t one. */
function clearDate(text: string): Day | null | undefined {
  const iso = YEAR_FIRST.exec(text);
  if (iso) return dayFromDate(Number(iso[1]), Number(iso[3]), Number(iso[4]));
  const words = MONTH_FIRST_WORDS.exec(text) ?? undefined;
  const turned = words ? undefined : (DAY_FIRST_WORDS.exec(text) ?? undefined);
  if (words || turned) {
    const [month, day, year] = words
      ? [words[1]!, words[2]!, words[3]!]
      : [turned![2]!, turned![1]!, turned![3]!];
    const at = MONTHS.indexOf(month.slice(0, 3).toLowerCase());
    return at === -1 ? undefined : dayFromDate(yearOf(year), at + 1, Number(day));
  }
  const week = WEEK_DAY.exec(text);
  return week ? weekDay(week[1]!, week[2]!, Number(week[3])) : undefined;
}

/** A day of an ISO week, 1 for Monday to 7 for Sunday; null where the year has no such week. */
function weekDay(year: string, week: string, day: number): Day | null {
  const fourth = dayFromDate(Number(year), 1, 4);
  const next = dayFromDate(Number(year) + 1, 1, 4);
  if (fourth === null || next === null || Number(week) < 1) return null;
  const monday = addDays(mondayOf(fourth), 7 * (Number(week) - 1));
  return monday < mondayOf(next) ? addDays(monday, day - 1) : null;
}

/**
 * Returns the Sunday that ends a whole ISO week (ISO 8601), or null where the text is none.
 * @example isoDay(readWeek('2026-W45')!) // '2026-11-08'
 */
export function readWeek(text: string): Day | null {
  const week = WEEK.exec(text.trim());
  return week ? weekDay(week[1]!, week[2]!, 7) : null;
}

/** Collects evidence on the order of a date column, one text at a time, in constant memory. */
export class DateOrderEvidence {
  private yearFirst = 0;
  private dotted = 0;
  private yearLast = 0;
  private dayFirstProof = 0;
  private monthFirstProof = 0;
  private last = '';

  add(text: string): void {
    // Rows of one day often follow each other, and say nothing new.
    if (text === this.last) return;
    this.last = text;
    const trimmed = text.trim();
    if (clearDate(trimmed) !== undefined) {
      this.yearFirst++;
      return;
    }
    const match = YEAR_LAST.exec(trimmed);
    if (!match) return;
    this.yearLast++;
    if (match[2] === '.') this.dotted++;
    if (Number(match[1]) > 12) this.dayFirstProof++;
    if (Number(match[3]) > 12) this.monthFirstProof++;
  }

  /**
   * The order that the column settles. Dates with dots are day-first (common practice, no published
   * source). A column that proves both orders is ambiguous: no single order reads it.
   */
  finding(): DateOrderFinding {
    if (this.yearLast === 0) return this.yearFirst > 0 ? 'year-first' : 'none';
    if (this.dayFirstProof > 0 && this.monthFirstProof > 0) return 'ambiguous';
    if (this.dayFirstProof > 0) return 'day-first';
    if (this.monthFirstProof > 0) return 'month-first';
    return this.dotted === this.yearLast ? 'day-first' : 'ambiguous';
  }
}

/**
 * Parses a written date. Year-first dates are unambiguous, whatever the order.
 *
 * Returns the day, or a sentence on why it is none; UNSETTLED if the order is needed but unknown.
 */
export function readDate(text: string, order: DateOrder): Day | string;
export function readDate(text: string, order: DateOrder | typeof UNSETTLED): Day | string | typeof UNSETTLED;
export function readDate(text: string, order: DateOrder | typeof UNSETTLED): Day | string | typeof UNSETTLED {
  const trimmed = text.trim();
  if (trimmed === '') return 'The date is empty.';
  const clear = clearDate(trimmed);
  if (clear !== undefined) return orImpossible(clear, trimmed);
  if (WEEK.test(trimmed)) return `${trimmed} is a whole week, not a day. Choose “Week” for this column.`;
  const match = YEAR_LAST.exec(trimmed);
  if (!match) return `“${trimmed.slice(0, 40)}” is not a date such as 2026-09-14.`;
  if (order === UNSETTLED) return UNSETTLED;
  const [first, second] = [Number(match[1]), Number(match[3])];
  const [month, dayOfMonth] = order === 'month-first' ? [first, second] : [second, first];
  return orImpossible(dayFromDate(yearOf(match[4]!), month, dayOfMonth), trimmed);
}

/** Days before 1990 are slips of the pen: nobody searched the web then. */
const FIRST_YEAR_DAY = 7305;

function orImpossible(day: Day | null, text: string): Day | string {
  if (day === null) return `The date ${text} does not exist in the calendar.`;
  return day < FIRST_YEAR_DAY ? `The date ${text} lies before 1990.` : day;
}
