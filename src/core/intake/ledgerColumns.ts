/** What a column of a sheet of changes can hold. */
export const LEDGER_FIELDS = [
  'day',
  'page',
  'title',
  'kind',
  'oldText',
  'newText',
  'person',
  'link',
  'expected',
  'result',
  'note',
  'tags',
  'queries',
] as const;
export type LedgerField = (typeof LEDGER_FIELDS)[number];

export const LEDGER_FIELD_NAMES: Record<LedgerField, string> = {
  day: 'Day',
  page: 'Page, or several',
  title: 'What was changed',
  kind: 'Kind',
  oldText: 'Old text',
  newText: 'New text',
  person: 'Who',
  link: 'Ticket or link',
  expected: 'What was expected',
  result: 'What came of it',
  note: 'Note',
  tags: 'Tags',
  queries: 'Queries',
};

/** Which column (counted from 0) holds which field; null or absent where none does. */
export type LedgerMapping = Partial<Record<LedgerField, number | null>>;

/** Column names met for each field, lower case, letters and digits only. */
const USUAL_NAMES: Record<LedgerField, readonly string[]> = {
  day: [
    'day',
    'date',
    'madeon',
    'changedon',
    'changedate',
    'dateofchange',
    'datechanged',
    'when',
    'livedate',
    'datum',
    'fecha',
  ],
  page: [
    'page',
    'pages',
    'url',
    'urls',
    'address',
    'path',
    'pageurl',
    'pagepath',
    'landingpage',
    'link to page',
  ],
  title: [
    'change',
    'changes',
    'what',
    'whatwaschanged',
    'whatchanged',
    'description',
    'action',
    'task',
    'summary',
    'title',
    'edit',
  ],
  kind: ['kind', 'type', 'kindofchange', 'typeofchange', 'changetype', 'category', 'element'],
  oldText: [
    'old',
    'oldtext',
    'before',
    'oldtitle',
    'oldvalue',
    'previous',
    'from',
    'original',
    'was',
    'oldmetatitle',
  ],
  newText: [
    'new',
    'newtext',
    'after',
    'newtitle',
    'newvalue',
    'to',
    'updated',
    'is',
    'newmetatitle',
    'rewrite',
  ],
  person: ['who', 'person', 'by', 'madeby', 'changedby', 'owner', 'author', 'assignee', 'editor', 'initials'],
  link: ['ticket', 'link', 'ticketlink', 'ticketurl', 'issue', 'issuelink', 'reference', 'ref'],
  expected: ['expected', 'expectation', 'hypothesis', 'goal', 'expectedresult', 'whatisexpected'],
  result: ['result', 'results', 'outcome', 'effect', 'whatcameofit', 'impact', 'status'],
  note: ['note', 'notes', 'comment', 'comments', 'remarks'],
  tags: ['tags', 'tag', 'labels', 'label', 'round', 'batch'],
  queries: ['query', 'queries', 'keyword', 'keywords', 'targetquery', 'targetkeyword', 'searchterm'],
};

const plainName = (name: string) =>
  name
    .toLowerCase()
    .replace(/\(.*?\)/g, '')
    .replace(/[^\p{L}\p{N}]/gu, '');

/** Finds the field of each column by its name; each field takes the first column that bears one of its usual names. */
export function recogniseLedger(head: readonly string[]): LedgerMapping {
  const mapping: LedgerMapping = {};
  head.forEach((name, column) => {
    const plain = plainName(name);
    const field = LEDGER_FIELDS.find((one) => mapping[one] === undefined && USUAL_NAMES[one].includes(plain));
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
