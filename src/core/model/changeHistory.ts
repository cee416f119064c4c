import type { EditStamp } from './editHistory';
import type { Change } from './change';
import { CHANGE_FIELDS, historyLabel } from './changeFields';

/** What a change said until an instant (ISO 8601, UTC). */
export type PastChange = EditStamp & { readonly was: Change };

type Field = Exclude<keyof typeof CHANGE_FIELDS, 'planned' | 'opening'>;

const FIRST: readonly Field[] = ['title', 'kind', 'day', 'pages', 'queries'];

/**
 * What a history tells apart, as it is listed. Whether a change is planned is among its steps, and the
 * opening stays as it was taken.
 */
const FIELDS = [
  ...new Set([...FIRST, ...(Object.keys(CHANGE_FIELDS) as (keyof typeof CHANGE_FIELDS)[])]),
].filter((field): field is Field => field !== 'planned' && field !== 'opening');

/** The fields, by what they are called, in which two states of a change differ. */
export function changedFields(before: Change, after: Change): string[] {
  const plain = (change: Change, field: Field) => {
    // The same pages may have got other numbers since.
    const value =
      field === 'pages'
        ? change.pages.map((page) => page.address)
        : field === 'parts'
          ? change.parts.map(({ kind, page, oldText, newText }) => ({
              kind,
              oldText,
              newText,
              page: page?.address,
            }))
          : change[field];
    return JSON.stringify(value ?? null);
  };
  return FIELDS.filter((field) => plain(before, field) !== plain(after, field)).map(historyLabel);
}
