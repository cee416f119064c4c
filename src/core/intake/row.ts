import { isoDay, type Day } from '../calendar/day';
import type { ColumnMapping } from './columns';
import { readDate, type DateOrder } from './dates';
import { readCount, readPosition } from './numbers';

/** Device codes as they are stored; 0 stands for a row that was not divided by device. */
export const DEVICES = { all: 0, desktop: 1, mobile: 2, tablet: 3, other: 4 } as const;

/** One row of a figures file as it will be stored. */
export type FigureRow = {
  readonly day: Day;
  readonly address: string;
  readonly query: string | null;
  readonly device: number;
  readonly country: string;
  readonly clicks: number;
  readonly impressions: number;
  readonly positionSum: number | null;
};

export type RowContext = {
  readonly mapping: ColumnMapping;
  readonly dateOrder: DateOrder;
  /** The newest day that a row may have; a later one is a slip of the pen. */
  readonly newestDay: Day;
  /** Turns a written address into the key of a page of this site, or gives a sentence saying why it cannot. */
  readonly address: (text: string) => { key: string } | { problem: string };
};

function readDevice(text: string): number {
  const plain = text.trim().toLowerCase();
  if (plain === '' || plain === 'all' || plain === 'all devices') return DEVICES.all;
  if (plain.startsWith('desktop') || plain === 'computer') return DEVICES.desktop;
  if (/^(mobile|phone|smartphone)/.test(plain)) return DEVICES.mobile;
  return plain.startsWith('tablet') ? DEVICES.tablet : DEVICES.other;
}

/** Reads one row by a mapping. Gives the row, or one sentence saying what is wrong with it. */
export function readRow(cells: readonly string[], context: RowContext): FigureRow | string {
  const { mapping } = context;
  const cell = (field: keyof ColumnMapping): string => {
    const column = mapping[field];
    return column == null ? '' : (cells[column] ?? '');
  };
  const day = readDate(cell('date'), context.dateOrder);
  if (typeof day === 'string') return day;
  if (day > context.newestDay) return `The date ${isoDay(day)} lies in the future.`;

  const address = context.address(cell('page'));
  if ('problem' in address) return address.problem;

  const query = mapping.query == null ? null : normaliseQuery(cell('query'));
  if (query === '') return 'The query is empty.';
  if (query !== null && query.length > 500) return 'The query is longer than 500 characters.';

  const clicks = readCount(cell('clicks'), 'Clicks');
  if (typeof clicks === 'string') return clicks;
  const impressions = readCount(cell('impressions'), 'Impressions');
  if (typeof impressions === 'string') return impressions;
  if (clicks > impressions) return `More clicks (${clicks}) than impressions (${impressions}).`;

  const position = readPosition(cell('position'));
  if (typeof position === 'string') return position;
  // Sources write 0 for the position of a row that nobody saw; with impressions, 1 is the best there is.
  if (position !== null && impressions > 0 && position < 1)
    return `Position ${position} is below 1, which is the best there is.`;

  return {
    day,
    address: address.key,
    query,
    device: readDevice(cell('device')),
    country: cell('country').trim().toLowerCase().slice(0, 60),
    clicks,
    impressions,
    positionSum: impressions === 0 ? 0 : position === null ? null : position * impressions,
  };
}

/** Queries are compared in composed Unicode form, lower case, with single spaces: one query, one spelling. */
export function normaliseQuery(text: string): string {
  return text.normalize('NFC').trim().replace(/\s+/g, ' ').toLowerCase();
}
