/* A list's wish as the query of an address: what is taken from it, and how it is altered. */

import type { Column, ListSubject } from './columns';
import { COLUMNS, columnsOf } from './columns';
import { listQuerySchema, type ListQuery } from './wish';

/** The parameters of an address, the first of each name. */
export type Parameters = Readonly<Record<string, string | string[] | undefined>>;

/**
 * What a list is asked for by the parameters of a screen's address. What makes no sense there is passed over, since an address may be
 * old or half typed; over HTTP it is refused instead.
 */
export function listQueryFrom(parameters: Parameters, subject: ListSubject): ListQuery {
  const known = new Set<string>([
    ...['from', 'to', 'against', 'device', 'q', 'without', 'brand', 'intent', 'group', 'sort', 'cursor'],
    ...columnsOf(subject).flatMap((column) => [`${column}.min`, `${column}.max`]),
  ]);
  const given: Record<string, string> = {};
  for (const [name, value] of Object.entries(parameters)) {
    const first = Array.isArray(value) ? value[0] : value;
    if (first !== undefined && first !== '' && known.has(name)) given[name] = first;
  }
  const parsed = listQuerySchema.safeParse(given);
  if (parsed.success) return parsed.data as ListQuery;
  for (const issue of parsed.error.issues) delete given[String(issue.path[0])];
  return listQuerySchema.parse(given) as ListQuery;
}

/** The query of an address with some of its parameters set to others; null takes one away. */
export function altered(parameters: Parameters, edit: Readonly<Record<string, string | null>>): string {
  const query = new URLSearchParams();
  for (const [name, value] of Object.entries({ ...parameters, ...edit })) {
    const first = Array.isArray(value) ? value[0] : value;
    if (first !== undefined && first !== null && first !== '') query.set(name, first);
  }
  return query.size === 0 ? '' : `?${query}`;
}

/** How the name of a column's own filter is written in an address: its least and its most. */
export function boundNames(column: Column): { readonly min: string; readonly max: string } {
  return { min: `${column}.min`, max: `${column}.max` };
}

/** What a range says. @example rangeText('position', { min: 5, max: 21 }) // "position 5 to 21" */
export function rangeText(column: Column, { min, max }: { min: number | null; max: number | null }): string {
  const written = (value: number) =>
    COLUMNS[column].form === 'ctr' || COLUMNS[column].form === 'share'
      ? `${Number((value * 100).toFixed(2))}%`
      : value.toLocaleString('en-GB', { maximumFractionDigits: 2 });
  const { name } = COLUMNS[column];
  if (min !== null && max !== null) return `${name} ${written(min)} to ${written(max)}`;
  return min !== null ? `${name} ${written(min)} or more` : `${name} ${written(max!)} or less`;
}
