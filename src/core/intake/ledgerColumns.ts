import { CHANGE_FIELDS, PLAIN_FIELD_NAMES, plainField, type PlainFieldName } from '../model/changeFields';

export type SheetField = {
  [F in PlainFieldName]: (typeof CHANGE_FIELDS)[F] extends { sheet: object } ? F : never;
}[PlainFieldName];

/** The plain fields of a change that a sheet can have. */
export const SHEET_FIELDS = PLAIN_FIELD_NAMES.filter((name) => plainField(name).sheet) as SheetField[];

/** What a column of a sheet of changes can hold: a field of a change, or what becomes one. */
export type LedgerField = SheetField | 'day' | 'page' | 'expected' | 'result' | 'tags' | 'queries';

const COLUMNS: Readonly<
  Record<LedgerField, { readonly label: string; readonly headings: readonly string[] }>
> = {
  day: CHANGE_FIELDS.day.sheet,
  page: {
    label: 'Page, or several',
    headings: [
      ...['page', 'pages', 'url', 'urls', 'address', 'path', 'pageurl', 'pagepath', 'landingpage'],
      'link to page',
    ],
  },
  ...(Object.fromEntries(SHEET_FIELDS.map((name) => [name, CHANGE_FIELDS[name].sheet])) as {
    [F in SheetField]: (typeof CHANGE_FIELDS)[F]['sheet'];
  }),
  expected: {
    label: 'What was expected',
    headings: ['expected', 'expectation', 'hypothesis', 'goal', 'expectedresult', 'whatisexpected'],
  },
  result: {
    label: 'What came of it',
    headings: ['result', 'results', 'outcome', 'effect', 'whatcameofit', 'impact', 'status'],
  },
  tags: CHANGE_FIELDS.tags.sheet,
  queries: CHANGE_FIELDS.queries.sheet,
};

export const LEDGER_FIELDS = Object.keys(COLUMNS) as LedgerField[];
export const LEDGER_FIELD_NAMES = Object.fromEntries(
  LEDGER_FIELDS.map((field) => [field, COLUMNS[field].label]),
) as Record<LedgerField, string>;

/** Which column (counted from 0) holds which field; null or absent where none does. */
export type LedgerMapping = Partial<Record<LedgerField, number | null>>;

const plainName = (name: string) =>
  name
    .toLowerCase()
    .replace(/\(.*?\)/g, '')
    .replace(/[^\p{L}\p{N}]/gu, '');

/** Maps columns to fields by name; a field takes the first column with one of its usual names. */
export function recogniseLedger(head: readonly string[]): LedgerMapping {
  const mapping: LedgerMapping = {};
  head.forEach((name, column) => {
    const plain = plainName(name);
    const field = LEDGER_FIELDS.find(
      (one) => mapping[one] === undefined && COLUMNS[one].headings.includes(plain),
    );
    if (field) mapping[field] = column;
  });
  return mapping;
}

/** What a sheet of changes must say at least, in sentences; none where it does. */
export function ledgerProblems(mapping: LedgerMapping, columns: number): string[] {
  const has = (field: LedgerField) => mapping[field] != null;
  const used = new Map<number, LedgerField>();
  const doubled: string[] = [];
  for (const field of LEDGER_FIELDS) {
    const column = mapping[field];
    if (column == null) continue;
    const other = used.get(column);
    if (column < 0 || column >= columns)
      doubled.push(`${LEDGER_FIELD_NAMES[field]} names a column that is not there.`);
    else if (other)
      doubled.push(
        `One column cannot be both ${LEDGER_FIELD_NAMES[other]} and ${LEDGER_FIELD_NAMES[field]}.`,
      );
    used.set(column, field);
  }
  return [
    ...(has('day') ? [] : ['There is no column with the day of each change.']),
    ...(has('page') ? [] : ['There is no column with the page of each change.']),
    ...(['title', 'kind', 'oldText', 'newText'].some((field) => has(field as LedgerField))
      ? []
      : ['There is no column that says what was changed: its wording, its kind, or the old and new text.']),
    ...doubled,
  ];
}

/** Whether the names in a head are those of a sheet of changes and not of figures. */
export function looksLikeLedger(head: readonly string[]): boolean {
  const mapping = recogniseLedger(head);
  const telling = (['kind', 'oldText', 'newText', 'title', 'person'] as const).filter(
    (field) => mapping[field] != null,
  );
  return ledgerProblems(mapping, head.length).length === 0 && telling.length > 0;
}
