import type { Span } from '../calendar/span';
import type { Grain } from '../facts/grains';
import { doubledColumns, type ColumnMapping } from './columns';

/** What the rows of a file are about, or the sentences that say why that cannot be told. */
export type GrainFinding =
  | { readonly grain: Grain; readonly problems: readonly [] }
  | { readonly grain: null; readonly problems: readonly string[] };

/** The grain of a file with these columns, or sentences on the columns it lacks. */
function grainOf(has: (field: keyof ColumnMapping) => boolean): Grain | string[] {
  const search = has('clicks') || has('impressions');
  if (search) {
    const missing = [
      ...(has('clicks') ? [] : ['There is no clicks column.']),
      ...(has('impressions') ? [] : ['There is no impressions column.']),
    ];
    if (missing.length > 0) return missing;
    if (has('date')) {
      if (has('page')) return has('query') ? 'page_query_day' : 'page_day';
      return has('query') ? 'query_day' : 'site_day';
    }
    if (has('page')) return has('query') ? 'page_query_period' : 'page_period';
    if (has('week') && !has('query'))
      return ['Site totals must be daily. For weekly rows, add a page or query column.'];
    return has('query') ? 'query_period' : ['There is no date column, and neither page nor query.'];
  }
  if (has('sessions')) {
    const missing = [
      ...(has('date') ? [] : ['There is no date column: one column must give the day of each row.']),
      ...(has('page') ? [] : ['There is no page column: one column must give the address of each row.']),
    ];
    return missing.length > 0 ? missing : 'analytics_day';
  }
  if (has('date') && has('query') && has('position')) return 'rank_check';
  if (!has('date') && has('query') && has('searches')) return 'query_attribute';
  if (!has('date') && has('page') && (has('group') || has('worth'))) return 'page_attribute';
  return [
    ...(has('date') ? [] : ['There is no date column: one column must give the day of each row.']),
    ...(has('page') ? [] : ['There is no page column: one column must give the address of each row.']),
    'There is no clicks column.',
    'There is no impressions column.',
  ];
}

/** What a mapping makes of a file with so many columns. */
export function findGrain(mapping: ColumnMapping, columns: number): GrainFinding {
  const found = grainOf((field) => mapping[field] != null);
  const doubled = doubledColumns(mapping, columns);
  if (typeof found === 'string' && doubled.length === 0) return { grain: found, problems: [] };
  return { grain: null, problems: [...(typeof found === 'string' ? [] : found), ...doubled] };
}

/** Whether rows of a grain hold for a whole period. */
export function isOfPeriod(grain: Grain): boolean {
  return grain === 'page_period' || grain === 'page_query_period' || grain === 'query_period';
}

/** Whether the days that the rows hold for have to be stated: no column gives the week of each. */
export function needsPeriod(grain: Grain, mapping: ColumnMapping): boolean {
  return isOfPeriod(grain) && mapping.week == null;
}

/** Says what is wrong with a stated period, or null. */
export function periodProblem(period: Span | undefined): string | null {
  if (!period) {
    return 'The rows have no date: state the first and the last day of the period that they hold for.';
  }
  return period.lastDay < period.firstDay ? 'The last day of the period lies before its first.' : null;
}
