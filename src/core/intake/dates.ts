import { dayFromDate, type Day } from '../calendar/day';

/** How the parts of a written date follow each other in one file. */
export type DateOrder = 'year-first' | 'day-first' | 'month-first';

/** What a whole date column says of its own order. `ambiguous` must be asked; `none`: not one date was seen. */
export type DateOrderFinding = DateOrder | 'ambiguous' | 'none';

/** Stands for an order that nobody has settled yet. */
export const UNSETTLED = Symbol('unsettled');

// A time of day after the date is allowed and left out: rows are by day.
const YEAR_FIRST = /^(\d{4})([-/.]?)(\d{2})\2(\d{2})(?:[T ]\d{2}:?\d{2}.*)?$/;
const YEAR_LAST = /^(\d{1,2})([-/.])(\d{1,2})\2(\d{4})(?:[T ]\d{2}:?\d{2}.*)?$/;

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
    if (YEAR_FIRST.test(trimmed)) {
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
   * The order that the column settles. Dates with dots are day-first (common practice, no published source).
   * A column that proves both orders is ambiguous too: no one order reads it.
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
 * Reads one written date. Year-first dates are read whatever the order says, since they leave no doubt.
 * Gives the day, or a sentence saying why it is none; UNSETTLED where the order was given as that and is needed.
 */
export function readDate(text: string, order: DateOrder): Day | string;
export function readDate(text: string, order: DateOrder | typeof UNSETTLED): Day | string | typeof UNSETTLED;
export function readDate(text: string, order: DateOrder | typeof UNSETTLED): Day | string | typeof UNSETTLED {
  const trimmed = text.trim();
  if (trimmed === '') return 'The date is empty.';
  let match = YEAR_FIRST.exec(trimmed);
  if (match) return orImpossible(dayFromDate(Number(match[1]), Number(match[3]), Number(match[4])), trimmed);
  match = YEAR_LAST.exec(trimmed);
  if (!match) return `“${trimmed.slice(0, 40)}” is not a date such as 2026-09-14.`;
  if (order === UNSETTLED) return UNSETTLED;
  const [first, second] = [Number(match[1]), Number(match[3])];
  const [month, dayOfMonth] = order === 'month-first' ? [first, second] : [second, first];
  return orImpossible(dayFromDate(Number(match[4]), month, dayOfMonth), trimmed);
}

/** Days before 1990 are slips of the pen: nobody searched the web then. */
const FIRST_YEAR_DAY = 7305;

function orImpossible(day: Day | null, text: string): Day | string {
  if (day === null) return `The date ${text} does not exist in the calendar.`;
  return day < FIRST_YEAR_DAY ? `The date ${text} lies before 1990.` : day;
}
