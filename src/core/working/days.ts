import type { DailySum } from '../measures/registry';
import { SheetWriter } from './workSheet';

/** What each sheet of daily figures is called, and what it holds. */
export const DAILY_SHEETS: Readonly<Record<DailySum, readonly [name: string, about: string]>> = {
  clicks: ['clicks', 'Clicks of each page, day by day.'],
  impressions: ['impressions', 'Impressions of each page, day by day.'],
  expected: [
    'showings',
    'Showings: the clicks that each page would bring at the site’s usual CTR by position.',
  ],
  positionSum: ['position sums', 'Average position times impressions.'],
  positionWeight: ['position weights', 'Impressions that came with a position.'],
  rankSum: [
    'rank sums',
    'Logarithms of each search’s position, at the same mix of searches, times impressions.',
  ],
  rankWeight: ['rank weights', 'Impressions of the searches in the rank.'],
};

/** The daily figures that a workbook is made from. */
export type Daily = {
  /** The days shown, one after the other, and whether the site has figures on each. */
  readonly firstDay: number;
  readonly covered: readonly boolean[];
  readonly of: (column: DailySum, id: number) => readonly number[];
};

/** Rows above the first day. */
const HEAD = 2;

/** A sheet of daily figures: days down, pages across. */
export class DailySheet {
  readonly sheet: SheetWriter;

  constructor(
    column: DailySum,
    private readonly daily: Daily,
    private readonly ids: readonly number[],
    nameOf: (id: number) => string,
  ) {
    const [name, about] = DAILY_SHEETS[column];
    this.sheet = new SheetWriter(name);
    this.sheet.set(0, 0, about);
    this.sheet.line(1, [{ heading: 'day' }, { heading: 'has figures' }]);
    ids.forEach((id, i) => this.sheet.set(1, 2 + i, { heading: nameOf(id) }));
    daily.covered.forEach((covered, i) =>
      this.sheet.line(HEAD + i, [{ day: daily.firstDay + i }, covered ? 1 : 0]),
    );
    ids.forEach((id, i) =>
      daily.of(column, id).forEach((value, day) => this.sheet.set(HEAD + day, 2 + i, value)),
    );
  }

  /** The sum of a page's figures, or of the days that have any (null), between two days, given as formulas or cells. */
  sum(id: number | null, first: string, last: string): string {
    const column = id === null ? 1 : 2 + this.ids.indexOf(id);
    const end = HEAD + this.daily.covered.length - 1;
    const days = this.sheet.range([HEAD, 0], [end, 0]);
    return `SUMIFS(${this.sheet.range([HEAD, column], [end, column])},${days},">="&${first},${days},"<="&${last})`;
  }
}
