/* The columns of lists of pages, queries and pairs of both: what they are called over HTTP and in addresses, and on screen. */

import { isInPlaces, MEASURE_DESCRIPTIONS, METRICS, type Metric, type Unit } from '../measures/registry';

/** What a list has a line for: a page, a query, or a query on a page. */
export const LIST_SUBJECTS = ['pages', 'queries', 'pairs'] as const;
export type ListSubject = (typeof LIST_SUBJECTS)[number];

/** How the values of a column are written. */
export type ColumnForm = 'count' | 'ctr' | 'position' | 'ratio' | 'share' | 'money' | 'places' | 'points';

type Described = {
  readonly name: string;
  readonly form: ColumnForm;
  /** The lists that have it; all where it is absent. */
  readonly only?: readonly ListSubject[];
  /** What it says, where its name does not. */
  readonly about?: string;
};

/** How the value of a metric and its difference are written in a list, by unit. */
const FORMS: Readonly<Record<Unit, readonly [value: ColumnForm, difference: ColumnForm]>> = {
  count: ['count', 'count'],
  share: ['ctr', 'points'],
  places: ['position', 'places'],
  ratio: ['ratio', 'ratio'],
};

/** The key of the column that has the difference of a metric. Position has the places gained. */
export type DifferenceColumn = `difference.${Exclude<Metric, 'position'> | 'placesGained'}`;
export const differenceColumn = (metric: Metric): DifferenceColumn =>
  `difference.${metric === 'position' ? 'placesGained' : metric}`;

/** A span is compared with its plain figures before, so without the appeal that it had. */
type BeforeColumn = `before.${Exclude<Metric, 'appeal'>}`;

function metricColumns(): Record<Metric | DifferenceColumn | BeforeColumn, Described> {
  const columns: [key: string, column: Described][] = [];
  const each = (of: (name: string, forms: readonly [ColumnForm, ColumnForm], metric: Metric) => void) => {
    for (const metric of METRICS) {
      const { inText, unit } = MEASURE_DESCRIPTIONS[metric];
      of(inText, FORMS[unit], metric);
    }
  };
  each((name, [form], metric) => columns.push([metric, { name, form, ...ABOUT[metric] }]));
  each((name, [, form], metric) =>
    columns.push([
      differenceColumn(metric),
      { name: isInPlaces(metric) ? 'places gained' : `${name}, difference`, form },
    ]),
  );
  each((name, [form], metric) => {
    if (metric !== 'appeal') columns.push([`before.${metric}`, { name: `${name} before`, form }]);
  });
  return Object.fromEntries(columns) as ReturnType<typeof metricColumns>;
}

const ABOUT: Readonly<Partial<Record<Metric, Pick<Described, 'about'>>>> = {
  appeal: { about: 'clicks over those usual on this site at the same positions' },
};

/** All columns by the names under which they are sorted and narrowed. */
export const COLUMNS = {
  ...metricColumns(),
  expectedCtr: { name: 'usual CTR', form: 'ctr', about: 'the CTR of this site at these positions' },
  // CTR over it is appeal: what a filter asks for is how far below the usual it lies.
  missing: {
    name: 'clicks missing',
    form: 'count',
    about: 'clicks that the usual CTR would bring, less those that came',
  },
  queries: { name: 'queries', form: 'count', only: ['pages'] },
  pages: {
    name: 'pages',
    form: 'count',
    only: ['queries', 'pairs'],
    about: 'pages of the site that were shown for the query',
  },
  searches: { name: 'searches a month', form: 'count', only: ['queries', 'pairs'] },
  changes: { name: 'changes', form: 'count', only: ['pages', 'pairs'] },
  findings: {
    name: 'findings',
    form: 'count',
    only: ['pages'],
    about: 'what wants a look on the page as it was last fetched',
  },
  weight: {
    name: 'weight',
    form: 'ratio',
    only: ['pages', 'pairs'],
    about: 'what the page matters to the business: 1 is as usual',
  },
  sessions: { name: 'sessions', form: 'count', only: ['pages'] },
  engagedShare: { name: 'engaged', form: 'share', only: ['pages'] },
  conversions: { name: 'conversions', form: 'count', only: ['pages'] },
  revenue: { name: 'revenue', form: 'money', only: ['pages'] },
  worth: { name: 'worth', form: 'money', about: 'the clicks at what one is worth (settings)' },
} as const satisfies Record<string, Described>;

export type Column = keyof typeof COLUMNS;
export const COLUMN_KEYS = Object.keys(COLUMNS) as [Column, ...Column[]];

/** The columns that a list has. */
export function columnsOf(subject: ListSubject): Column[] {
  return COLUMN_KEYS.filter((column) => {
    const { only }: Described = COLUMNS[column];
    return only === undefined || only.includes(subject);
  });
}
