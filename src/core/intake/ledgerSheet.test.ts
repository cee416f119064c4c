import { asDay, parseIsoDay } from '../calendar/day';
import { ledgerProblems, looksLikeLedger, recogniseLedger } from './ledgerColumns';
import {
  changesOfRows,
  expectationOf,
  kindOf,
  readLedgerRow,
  unsureKinds,
  type LedgerPlan,
  type LedgerRow,
} from './ledgerRows';

const HOME = 'https://www.quillow-bees.example';
const HEAD = ['Date', 'URL', 'What changed', 'Type', 'Old', 'New', 'By', 'Ticket', 'Hypothesis', 'Outcome'];
const plan: LedgerPlan = {
  mapping: recogniseLedger(HEAD),
  dateOrder: 'day-first',
  newestDay: asDay(30_000),
  address: (text) => {
    if (/^https?:/.test(text) && !text.startsWith(HOME)) throw new Error(`${text} is of another site.`);
    return text.startsWith('/') ? HOME + text : text;
  },
};
const read = (cells: string[]) => readLedgerRow(cells, 2, plan);
const row = (...cells: string[]) => read(cells) as LedgerRow;

test('the columns of a sheet are recognised by their names, and a sheet of figures is none of changes', () => {
  expect(plan.mapping).toEqual({
    ...{ day: 0, page: 1, title: 2, kind: 3, oldText: 4, newText: 5 },
    ...{ person: 6, link: 7, expected: 8, result: 9 },
  });
  expect(looksLikeLedger(HEAD)).toBe(true);
  expect(looksLikeLedger(['date', 'page', 'clicks', 'impressions'])).toBe(false);
  expect(ledgerProblems(recogniseLedger(['url', 'who']), 2)).toEqual([
    'There is no column with the day of each change.',
    'There is no column that says what was changed: its wording, its kind, or the old and new text.',
  ]);
});

test('a row becomes a change, and nothing that it says is lost', () => {
  const { change } = row(
    ...['14/09/2026', '/guides/wasps/', 'Shorter  title', 'Title tag', 'Old one', 'New one', 'MH'],
    ...['TICKET-7', 'CTR +25%', 'went up a bit'],
  );
  expect(change).toMatchObject({
    ...{ title: 'Shorter title', kind: 'title-rewrite', day: '2026-09-14', pages: [`${HOME}/guides/wasps/`] },
    ...{ oldText: 'Old one', newText: 'New one', person: 'MH', link: null, planned: false },
    expectation: { metric: 'ctr', direction: 'up', amount: 0.25 },
    note: 'Result: went up a bit\nTicket: TICKET-7',
  });
});

test('what is missing is made up from what is there', () => {
  const { change } = row(
    '14.9.2026',
    '/guides/wasps/',
    '',
    '',
    'Old',
    'New',
    '',
    'https://tickets.example/7',
    '',
    '',
  );
  expect(change).toMatchObject({ title: 'Title rewrite on /guides/wasps/', kind: 'title-rewrite' });
  expect(change.link).toBe('https://tickets.example/7');
});

test.each<[string[], string]>([
  [['', '/a/', 'x'], 'The date is empty.'],
  [['14/09/2026', '', 'x'], 'The row names no page.'],
  [['14/09/2026', 'https://other.example/', 'x'], 'https://other.example/ is of another site.'],
  [['31/02/2026', '/a/', 'x'], 'The date 31/02/2026 does not exist in the calendar.'],
])('a row %j is refused in a sentence', (cells, why) => {
  expect(read(cells)).toBe(why);
});

test.each([
  ['Meta description', 'meta-description'],
  ['H1', 'headings'],
  ['FAQ schema', 'structured-data'],
  ['301 redirect', 'address-or-redirect'],
  ['title-rewrite', 'title-rewrite'],
  ['Price table', 'price table'],
  ['constructor', 'constructor'],
  ['', 'other'],
])('the kind %j is %j', (text, kind) => expect(kindOf(text)).toBe(kind));

test.each([
  ['CTR +25%', { metric: 'ctr', direction: 'up', amount: 0.25 }],
  ['clicks down by 10 %', { metric: 'clicks', direction: 'down', amount: 0.1 }],
  ['position up 2', { metric: 'position', direction: 'up', amount: 2 }],
  ['more traffic', { metric: 'clicks', direction: 'up', amount: null }],
  ['nicer', null],
])('the expectation %j', (text, wanted) => expect(expectationOf(text)).toEqual(wanted));

test('rows of one day and wording become one change on several pages, with the texts of each', () => {
  const a = row('14/09/2026', '/a/', 'Titles', 'title', 'Old a', 'New a', 'MH');
  const b = row('14/09/2026', '/b/ /c/', 'Titles', 'title', 'Old b', 'New b', 'MH');
  const other = row('15/09/2026', '/a/', 'Titles', 'title', 'Old a', 'New a', 'MH');
  const changes = changesOfRows([a, b, other], true);
  expect(changes.map(({ change, keys }) => [change.pages.length, keys.length])).toEqual([
    [3, 2],
    [1, 1],
  ]);
  expect(changes[0]!.change).toMatchObject({
    ...{ oldText: null, newText: null },
    parts: [
      { page: `${HOME}/a/`, oldText: 'Old a', newText: 'New a' },
      { page: `${HOME}/b/`, newText: 'New b' },
      { page: `${HOME}/c/`, newText: 'New b' },
    ],
  });
  expect(changesOfRows([a, b, other], false)).toHaveLength(3);
});

test('the key of a row depends on the change alone, not on what came of it since', () => {
  const one = row('14/09/2026', '/a/', 'Titles', 'title', 'Old', 'New', 'MH', '', '', '');
  const later = row('14/09/2026', '/a/', 'Titles', 'title', 'Old', 'New', 'MH', '', '', 'went up');
  const other = row('14/09/2026', '/a/', 'Titles', 'title', 'Old', 'Newer', 'MH', '', '', '');
  expect(later.key).toBe(one.key);
  expect(other.key).not.toBe(one.key);
  expect(parseIsoDay(one.change.day)).not.toBeNull();
});

test('types that are not recognised are asked about, and one that is chosen holds', () => {
  expect(unsureKinds(['Title tag', 'Hero swap', '', 'hero swap ', 'Price table'])).toEqual([
    { written: 'hero swap', rows: 2 },
    { written: 'price table', rows: 1 },
  ]);
  const cells = ['14/09/2026', '/a/', 'New hero', 'Hero swap', '', '', '', '', '', ''];
  const chosen = readLedgerRow(cells, 2, { ...plan, kinds: { 'hero swap': 'media' } });
  expect((chosen as LedgerRow).change.kind).toBe('media');
});

test('without a type the words of the change suggest it, and are none of their own', () => {
  expect(row('14/09/2026', '/a/', 'Fetch & request indexing', '').change.kind).toBe('reindex-request');
  expect(row('14/09/2026', '/a/', 'A summer clean', '').change.kind).toBe('other');
});
