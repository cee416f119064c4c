import type { EditStamp } from './editHistory';
import type { Change } from './change';

/** What a change said until an instant (ISO 8601, UTC). */
export type PastChange = EditStamp & { readonly was: Change };

const FIELD_NAMES = {
  title: 'what was changed',
  kind: 'kind',
  day: 'day',
  pages: 'pages',
  queries: 'queries',
  oldText: 'old text',
  newText: 'new text',
  parts: 'parts',
  tags: 'tags',
  settlingDays: 'settling days',
  windowDays: 'days in each span',
  expectation: 'expectation',
  person: 'who',
  link: 'link',
  note: 'note',
  steps: 'steps',
  decision: 'decision',
  followsId: 'what it follows',
} as const satisfies Partial<Record<keyof Change, string>>;

/** The fields, by what they are called, in which two states of a change differ. */
export function changedFields(before: Change, after: Change): string[] {
  const plain = (change: Change, field: keyof typeof FIELD_NAMES) => {
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
  return (Object.keys(FIELD_NAMES) as (keyof typeof FIELD_NAMES)[])
    .filter((field) => plain(before, field) !== plain(after, field))
    .map((field) => FIELD_NAMES[field]);
}
