import { namedError } from '../errors';
import { isoDay, type Day } from '../calendar/day';
import { GRAINS, type Grain } from '../facts/grains';
import { unreadColumns, type ColumnMapping, type Field } from './columns';
import { choicesIn, counting, type Counted } from './counted';
import { readDate, readWeek, UNSETTLED, type DateOrder } from './dates';
import { fingerprint } from './fingerprint';
import { readAmount, readCount, readPosition } from './numbers';

/** Device codes as they are stored; 0 stands for a row that was not divided by device. */
export const DEVICES = { all: 0, desktop: 1, mobile: 2, tablet: 3, other: 4 } as const;

export type RowContext = {
  readonly grain: Grain;
  readonly mapping: ColumnMapping;
  /** Cells in a row of the head. */
  readonly columns: number;
  /** Null if the date order is unsettled; an ambiguous date then throws UnsettledDates. */
  readonly dateOrder: DateOrder | null;
  /** The last day of the period that all rows hold for, where they have no dates. */
  readonly periodEnd: Day | null;
  /** The values that count of columns that divide rows into kinds. */
  readonly counted: Counted;
  /** The newest day that a row may have; a later one is a slip of the pen. */
  readonly newestDay: Day;
  /** Turns a written address into its normal form, or gives a sentence saying why it cannot. */
  readonly address: (text: string) => { readonly written: string } | { readonly problem: string };
};

/** An ambiguous date was found without a known order. The whole column has to be inspected. */
export class UnsettledDates extends namedError('UnsettledDates') {}

/** What reading a row gives where it is fine, and of a kind that does not count. */
export const LEFT_OUT = Symbol('left out');

const MOST_REMEMBERED = 200_000;
const MAX_QUERY = 500;

/** A text with the number that whoever reads the rows gives it; below 0 before. */
export type Named = { readonly text: string; number: number };

const named = (text: string): Named => ({ text, number: -1 });

/** Keeps what a text was found to mean, since files repeat their texts from row to row. */
function remembered<T>(find: (text: string) => T): (text: string) => T {
  const known = new Map<string, T>();
  let [lastText, last] = [null as string | null, undefined as T];
  return (text) => {
    if (text === lastText) return last;
    let found = known.get(text);
    if (found === undefined) {
      // A piece of a larger text would keep all of it in memory.
      const own = ownCopy(text);
      found = find(own);
      if (known.size < MOST_REMEMBERED) known.set(own, found);
    }
    lastText = text;
    last = found;
    return found;
  };
}

function ownCopy(text: string): string {
  return text.length < 13 ? text : JSON.parse(JSON.stringify(text));
}

/**
 * Reads rows of a file by a mapping. After `read` the fields hold the row; the next call overwrites
 * them, since millions of rows pass through.
 */
export class RowReader {
  day = 0;
  /** The written address in its normal form; empty where the row is about no page. */
  address: Named;
  /** Empty where the row is about no query. */
  query: Named;
  device = 0;
  country: Named;
  /** Tells rows of one key apart that differ in columns that are not read. */
  part = 0;
  /** In the order of the grain's values; NaN where absent. */
  readonly values: Float64Array;
  /** What the row states of its page or query, where that is its grain. */
  attributes: { readonly name: string; readonly value: string }[] = [];

  readonly hasParts: boolean;
  private readonly none = named('');
  private readonly unread: readonly number[];
  private readonly column: (field: Field) => number;
  private readonly readDay: (text: string) => Day | string;
  private readonly readWeekEnd: (text: string) => Day | string;
  private readonly readAddress: (text: string) => Named | string;
  private readonly readDevice = remembered(deviceOf);
  private readonly readCountry = remembered((text) => named(text.trim().toLowerCase().slice(0, 60)));
  private readonly readQuery = remembered((text) => named(normaliseQuery(text)));
  private readonly readValues: (cells: readonly string[]) => string | null;
  /** For each column that divides rows into kinds, whether a value counts. */
  private readonly choices: readonly { readonly at: number; readonly counts: (text: string) => boolean }[];

  constructor(private readonly context: RowContext) {
    this.address = this.none;
    this.query = this.none;
    this.country = this.none;
    const { grain, mapping, columns, dateOrder, counted } = context;
    this.column = (field) => mapping[field] ?? -1;
    this.unread = unreadColumns(mapping, columns);
    this.hasParts = this.unread.length > 0;
    this.values = new Float64Array(GRAINS[grain].values.length);
    this.readDay = remembered((text) => this.dayOf(text, dateOrder));
    this.readAddress = remembered((text) => {
      const address = context.address(text);
      return 'problem' in address ? address.problem : named(address.written);
    });
    this.readValues = this.valuesOf(grain);
    this.choices = [
      ...choicesIn(mapping).map((choice) => ({
        at: mapping[choice]!,
        counts: remembered(counting(choice, counted[choice])),
      })),
      // Rows by search appearance overlap: only rows without it can be summed.
      ...(mapping.appearance == null
        ? []
        : [{ at: mapping.appearance, counts: (text: string) => text.trim() === '' }]),
    ];
    this.readWeekEnd = remembered((text) => this.weekEndOf(text));
    [this.dateAt, this.weekAt, this.pageAt, this.queryAt] = [
      this.column('date'),
      this.column('week'),
      this.column('page'),
      this.column('query'),
    ];
    [this.deviceAt, this.countryAt] = [this.column('device'), this.column('country')];
  }

  private readonly dateAt: number;
  private readonly weekAt: number;
  private readonly pageAt: number;
  private readonly queryAt: number;
  private readonly deviceAt: number;
  private readonly countryAt: number;

  private dayOf(text: string, order: DateOrder | null): Day | string {
    const day = readDate(text, order ?? UNSETTLED);
    if (day === UNSETTLED) throw new UnsettledDates();
    return typeof day === 'number' && day > this.context.newestDay
      ? `The date ${isoDay(day)} lies in the future.`
      : day;
  }

  /** The last day of a written week, or a sentence saying why there is none. */
  private weekEndOf(text: string): Day | string {
    const day = readWeek(text);
    if (day === null) return `“${text.trim().slice(0, 40)}” is not an ISO week such as 2026-W45.`;
    return day > this.context.newestDay
      ? `The week ${text.trim()} isn’t over yet. Import it once it is.`
      : day;
  }

  /**
   * Reads one row. Returns null, a sentence on what is wrong with it, or LEFT_OUT if it doesn’t
   * count.
   */
  read(cells: readonly string[]): string | null | typeof LEFT_OUT {
    const { columns } = this.context;
    if (cells.length !== columns) {
      const surplus = cells.slice(columns).some((cell) => cell.trim() !== '');
      if (cells.length < columns || surplus)
        return `The row has ${cells.length} cells where the head has ${columns}.`;
    }
    for (const { at, counts } of this.choices) if (!counts(cells[at]!)) return LEFT_OUT;
    if (this.dateAt >= 0) {
      const day = this.readDay(cells[this.dateAt]!);
      if (typeof day === 'string') return day;
      this.day = day;
    } else if (this.weekAt >= 0) {
      const day = this.readWeekEnd(cells[this.weekAt]!);
      if (typeof day === 'string') return day;
      this.day = day;
    } else this.day = this.context.periodEnd ?? 0;
    if (this.pageAt >= 0) {
      const text = cells[this.pageAt]!;
      // Rank checks may name a page or not.
      if (text === '' && this.context.grain === 'rank_check') this.address = this.none;
      else {
        if (isTotalRow(text))
          return `A total row (“${text.trim().slice(0, 40)}”): its figures are the sum of other rows, so it was skipped.`;
        const address = this.readAddress(text);
        if (typeof address === 'string') return address;
        this.address = address;
      }
    }
    if (this.queryAt >= 0) {
      this.query = this.readQuery(cells[this.queryAt]!);
      if (this.query.text === '') return 'The query is empty.';
      if (this.query.text.length > MAX_QUERY) return `The query is longer than ${MAX_QUERY} characters.`;
    }
    this.device = this.deviceAt < 0 ? 0 : this.readDevice(cells[this.deviceAt]!);
    this.country = this.countryAt < 0 ? this.none : this.readCountry(cells[this.countryAt]!);
    this.part = this.hasParts ? fingerprint(this.unread.map((column) => cells[column]!)) : 0;
    return this.readValues(cells);
  }

  private valuesOf(grain: Grain): (cells: readonly string[]) => string | null {
    switch (grain) {
      case 'rank_check':
        return this.rank(this.column('position'));
      case 'analytics_day':
        return this.analytics();
      case 'page_attribute':
      case 'query_attribute':
        return this.attributesOf(grain);
      default:
        return this.search();
    }
  }

  private search(): (cells: readonly string[]) => string | null {
    const [c, m, p] = [this.column('clicks'), this.column('impressions'), this.column('position')];
    const { values } = this;
    return (cells) => {
      const clicks = readCount(cells[c]!, 'Clicks');
      if (typeof clicks === 'string') return clicks;
      const impressions = readCount(cells[m]!, 'Impressions');
      if (typeof impressions === 'string') return impressions;
      if (clicks > impressions) return `More clicks (${clicks}) than impressions (${impressions}).`;
      const position = p < 0 ? null : readPosition(cells[p]!);
      if (typeof position === 'string') return position;
      // Sources write 0 for the position of rows without impressions; with impressions, 1 is the
      // best.
      if (position !== null && impressions > 0 && position < 1)
        return `Position ${position} is below 1, which is the best there is.`;
      values[0] = clicks;
      values[1] = impressions;
      values[2] = impressions === 0 ? 0 : position === null ? NaN : position * impressions;
      return null;
    };
  }

  private rank(p: number): (cells: readonly string[]) => string | null {
    return (cells) => {
      const position = readPosition(cells[p]!);
      if (typeof position === 'string') return position;
      // Not among the results that were looked at: that is a finding too, and not a position.
      if (position !== null && position !== 0 && position < 1)
        return `Position ${position} is below 1, which is the best there is.`;
      this.values[0] = position === null || position === 0 ? NaN : position;
      return null;
    };
  }

  private analytics(): (cells: readonly string[]) => string | null {
    const at = {
      sessions: this.column('sessions'),
      engaged: this.column('engagedSessions'),
      bounces: this.column('bounces'),
      conversions: this.column('conversions'),
      revenue: this.column('revenue'),
    };
    const amount = (cells: readonly string[], column: number, name: string) =>
      column < 0 ? null : readAmount(cells[column]!, name);
    return (cells) => {
      const sessions = readCount(cells[at.sessions]!, 'Sessions');
      if (typeof sessions === 'string') return sessions;
      const engaged = amount(cells, at.engaged, 'Engaged sessions');
      const bounces = amount(cells, at.bounces, 'Bounces');
      const conversions = amount(cells, at.conversions, 'Conversions');
      const revenue = amount(cells, at.revenue, 'Revenue');
      for (const one of [engaged, bounces, conversions, revenue]) if (typeof one === 'string') return one;
      for (const [name, one] of [
        ['engaged sessions', engaged],
        ['bounces', bounces],
      ] as const) {
        if (typeof one === 'number' && one > sessions)
          return `More ${name} (${one}) than sessions (${sessions}).`;
      }
      this.values.set([
        sessions,
        ...[engaged, bounces, conversions, revenue].map((one) => Number(one ?? NaN)),
      ]);
      return null;
    };
  }

  private attributesOf(grain: Grain): (cells: readonly string[]) => string | null {
    const [searches, group, worth] = [this.column('searches'), this.column('group'), this.column('worth')];
    const cell = (cells: readonly string[], column: number) => (column < 0 ? '' : cells[column]!.trim());
    return (cells) => {
      this.attributes = [];
      if (grain === 'query_attribute') {
        const count = readCount(cells[searches]!, 'Searches a month');
        if (typeof count === 'string') return count;
        this.attributes.push({ name: 'searches', value: String(count) });
        return null;
      }
      const name = cell(cells, group).slice(0, 100);
      if (name !== '') this.attributes.push({ name: 'group', value: name });
      const amount = readAmount(cell(cells, worth), 'Worth of a conversion');
      if (typeof amount === 'string') return amount;
      if (amount !== null) this.attributes.push({ name: 'worth', value: String(amount) });
      return this.attributes.length === 0 ? 'The row states nothing about its page.' : null;
    };
  }
}

/** What stands in place of a page where a row adds up all of them. */
const TOTALS =
  /^\(?\s*(?:grand |sub)?(?:totals?|sum|summe|gesamt|totale?s?|all pages|all urls|\(all\)|overall)\s*\)?:?$/i;

/** Whether a cell says that its row is the total of others. */
export function isTotalRow(text: string): boolean {
  return TOTALS.test(text.trim());
}

function deviceOf(text: string): number {
  const plain = text.trim().toLowerCase();
  if (plain === '' || plain === 'all' || plain === 'all devices') return DEVICES.all;
  if (plain.startsWith('desktop') || plain === 'computer') return DEVICES.desktop;
  if (/^(mobile|phone|smartphone)/.test(plain)) return DEVICES.mobile;
  return plain.startsWith('tablet') ? DEVICES.tablet : DEVICES.other;
}

/** Queries are compared in composed Unicode form, lower case, with single spaces. */
export function normaliseQuery(text: string): string {
  return text.normalize('NFC').trim().replace(/\s+/g, ' ').toLowerCase();
}
