import { asDay, isoDay } from '@/core/calendar/day';
import { newChangeSchema, type Change } from '@/core/model/change';
import { plainValuesOf } from '@/core/model/changeFields';
import { bookmarkScript } from '../settings/bookmarkScript';
import {
  emptyForm,
  formAfter,
  formField,
  formOf,
  inputOf,
  formFound,
  formGiven,
  kindChoices,
  OWN_KIND,
  pastedPages,
  usualReviewDay,
} from './formValues';
import { changeInputOf } from '@/core/changes/changeInput';
import { editedFields, fieldsInConflict } from '@/core/model/edits';

const CHANGE: Change = {
  ...plainValuesOf({ title: 'Shorter title', kind: 'title-rewrite' }),
  ...{ id: 1, siteId: 1, day: asDay(20_700) },
  pages: [{ id: 1, address: 'https://www.quillow-bees.example/guides/' }],
  written: ['https://www.quillow-bees.example/guides/'],
  queries: ['bee smoker', 'light a smoker'],
  ...{ oldText: 'old', newText: 'new', settlingDays: 5, windowDays: 14 },
  expectation: { metric: 'ctr', direction: 'up', amount: 0.07, reviewDay: asDay(20_730) },
  ...{ person: 'IK', link: 'https://tickets.quillow-bees.example/BEE-1', note: 'note' },
  ...{ steps: {}, decision: null, followsId: 7, parts: [], tags: [] },
};

test('a stored change goes through the form unchanged', () => {
  const parsed = newChangeSchema.parse(inputOf(formOf(CHANGE)));
  expect(parsed).toEqual({
    ...{ title: 'Shorter title', kind: 'title-rewrite', day: isoDay(CHANGE.day), pages: ['/guides/'] },
    ...{ queries: CHANGE.queries, oldText: 'old', newText: 'new', settlingDays: 5, windowDays: 14 },
    expectation: { metric: 'ctr', direction: 'up', amount: 0.07, reviewDay: isoDay(asDay(20_730)) },
    ...{ person: 'IK', link: CHANGE.link, note: 'note', planned: false, followsId: 7, opening: null },
    ...{ parts: [], tags: [] },
  });
});

test('parts and tags go through the form unchanged, so that a page that is none is complained of and not dropped', () => {
  const [guides] = CHANGE.pages;
  const part = { kind: 'headings', page: null, oldText: 'a', newText: null };
  const parts = [
    part,
    { ...part, page: guides! },
    { ...part, page: { id: 2, address: 'https://x.example/b/' } },
  ];
  const parsed = newChangeSchema.parse(inputOf(formOf({ ...CHANGE, parts, tags: ['autumn round', 'b'] })));
  expect(parsed).toMatchObject({
    parts: [part, { ...part, page: '/guides/' }, { ...part, page: '/b/' }],
    tags: ['autumn round', 'b'],
  });
});

test('a form that nobody touched edits nothing of what is stored, whatever stands in its fields', () => {
  const part = { kind: 'headings', page: CHANGE.pages[0]!, oldText: null, newText: 'b' };
  const expectation = {
    metric: 'ctr',
    direction: 'up',
    amount: 0.1234567890123456,
    reviewDay: null,
  } as const;
  for (const change of [
    CHANGE,
    { ...CHANGE, oldText: null, person: null, link: null, note: null, windowDays: null, followsId: null },
    { ...CHANGE, parts: [part, { ...part, page: null, oldText: 'a' }], tags: ['b', 'a'], expectation },
    { ...CHANGE, expectation: null, queries: [] },
  ]) {
    const [stored, typed] = [changeInputOf(change), inputOf(formOf(change))];
    expect(editedFields(stored, typed)).toEqual({});
    expect(fieldsInConflict({ ...typed, title: 'Mine' }, typed, stored)).toEqual([]);
  }
});

test('an undo and a rework turn the texts of every part', () => {
  const parts = [{ kind: 'headings', page: null, oldText: 'a', newText: 'b' }];
  const change = { ...CHANGE, parts };
  expect(formAfter(change, 'undo', asDay(20_700)).parts).toEqual([
    { kind: 'undo', page: '', oldText: 'b', newText: 'a' },
  ]);
  expect(formAfter(change, 'rework', asDay(20_700)).parts).toEqual([
    { kind: 'headings', page: '', oldText: 'b', newText: '' },
  ]);
});

test('what was found on a page is one change of several parts', () => {
  const found = formFound('https://www.quillow-bees.example/guides/', asDay(20_700), [
    { aspect: 'title', kind: 'title-rewrite', before: 'Old', after: 'New' },
    { aspect: 'text', kind: 'body-copy', before: null, after: 'More.' },
  ]);
  expect(newChangeSchema.parse(inputOf(found))).toMatchObject({
    title: 'Title rewrite, Body copy, found on /guides/',
    ...{ kind: 'title-rewrite', day: isoDay(asDay(20_700)), pages: ['/guides/'] },
    ...{ oldText: 'Old', newText: 'New' },
    parts: [{ kind: 'body-copy', page: null, oldText: null, newText: 'More.' }],
  });
});

test.each([
  ['/a/', null],
  ['', null],
  ['/a/\n/b/\r\n\n', { pages: ['/a/', '/b/'], texts: [] }],
  ['/a/\tNew a', { pages: ['/a/'], texts: [{ page: '/a/', oldText: '', newText: 'New a' }] }],
  [
    'Page\told\tnew\n/a/\tOld a\tNew a\n/b/',
    { pages: ['/a/', '/b/'], texts: [{ page: '/a/', oldText: 'Old a', newText: 'New a' }] },
  ],
])('%j pasted is %j', (text, read) => {
  expect(pastedPages(text)).toEqual(read);
});

test.each([
  ['ctr', '25', 0.25],
  ['ctr', '25 %', 0.25],
  ['clicks', '2,5', 0.025],
  ['position', '1.5', 1.5],
  ['ctr', '', null],
] as const)('of %s, %p is stored as %p', (metric, amount, wanted) => {
  const input = inputOf({ ...emptyForm(asDay(20_700)), metric, amount });
  expect(input.expectation?.amount).toBe(wanted);
});

test('without a metric nothing is expected', () => {
  expect(
    inputOf({ ...emptyForm(asDay(20_700)), amount: '25', reviewDay: '2026-10-14' }).expectation,
  ).toBeNull();
});

test.each([
  ['title', 'title'],
  ['pages.3', 'pages'],
  ['expectation.amount', 'amount'],
  ['expectation.reviewDay', 'reviewDay'],
  ['', 'root'],
])('a complaint about %p is shown at %s', (field, wanted) => {
  expect(formField(field)).toBe(wanted);
});

test('the review day that is offered is thirty days on', () => {
  expect([usualReviewDay('2026-09-14'), usualReviewDay('')]).toEqual(['2026-10-14', '']);
});

test('kinds of the site’s own come after the usual ones', () => {
  const choices = kindChoices(['headings', 'price-tags', 'price-tags']);
  expect(choices.at(-1)).toEqual({ value: 'price-tags', name: 'Price tags' });
  expect(choices.filter(({ value }) => value === 'headings')).toHaveLength(1);
});

describe('the change that comes after another', () => {
  const TODAY = asDay(20_800);

  test('undoing puts the old text back, on the same pages, linked to it', () => {
    expect(formAfter(CHANGE, 'undo', TODAY)).toMatchObject({
      ...{ title: 'Undo: Shorter title', kind: 'undo', day: isoDay(TODAY), pages: ['/guides/'] },
      ...{ oldText: 'new', newText: 'old', metric: '', followsId: 1, link: '', note: '' },
    });
  });

  test('reworking begins from the text that is there now, with the same expectation', () => {
    expect(formAfter(CHANGE, 'rework', TODAY)).toMatchObject({
      ...{ title: 'Shorter title, reworked', kind: 'title-rewrite', oldText: 'new', newText: '' },
      ...{ metric: 'ctr', amount: '7', reviewDay: '', followsId: 1 },
    });
  });

  test('a copy is for other pages, and linked to nothing', () => {
    expect(formAfter(CHANGE, 'copy', TODAY)).toMatchObject({
      ...{ title: 'Shorter title', pages: [], oldText: 'old', newText: 'new', followsId: null },
    });
  });

  test('what is still to be made goes through the form as that', () => {
    const planned = { ...CHANGE, steps: { planned: TODAY } };
    expect(newChangeSchema.parse(inputOf(formOf(planned))).planned).toBe(true);
    expect(formOf({ ...planned, steps: { ...planned.steps, made: TODAY } }).planned).toBe(false);
  });
});

test('a kind of one’s own is sent by its name, and complaints about it stand beside it', () => {
  const form = { ...emptyForm(asDay(20_700)), kind: OWN_KIND, ownKind: 'Price table' };
  expect(inputOf(form).kind).toBe('Price table');
  expect([formField('kind', true), formField('kind')]).toEqual(['ownKind', 'kind']);
});

test('what an address names is filled in, and what makes no sense is left as it is usual', () => {
  const today = asDay(20_500);
  const given = formGiven(
    {
      ...{ pages: ['/a/', '/b/', '/a/'], title: ' Shorter ', old: 'Old', new: 'New' },
      ...{ kind: 'meta-description', day: '2026-02-03' },
    },
    today,
  );
  expect(given).toMatchObject({
    ...{ pages: ['/a/', '/b/'], title: 'Shorter', oldText: 'Old', newText: 'New' },
    ...{ kind: 'meta-description', ownKind: '', day: '2026-02-03' },
  });
  const odd = formGiven({ pages: [], kind: 'constructor', day: '2026-02-31', title: 'x'.repeat(300) }, today);
  expect(odd).toMatchObject({ kind: OWN_KIND, ownKind: 'constructor', day: isoDay(today) });
  expect(odd.title).toHaveLength(200);
  expect(formGiven({ pages: [] }, today)).toEqual(emptyForm(today));
});

test('the script of the bookmark names the form, the page and its title', () => {
  const script = bookmarkScript('http://127.0.0.1:3000/sites/1/ledger/new');
  const opened: string[] = [];
  const page = {
    location: { href: 'https://www.quillow-bees.example/a/?b=c&d' },
    document: { title: "Bees & 'wax'" },
  };
  new Function('open', 'location', 'document', script.replace('javascript:', ''))(
    (href: string) => opened.push(href),
    page.location,
    page.document,
  );
  const { searchParams, pathname } = new URL(opened[0]!);
  expect(pathname).toBe('/sites/1/ledger/new');
  expect(Object.fromEntries(searchParams)).toEqual({
    page: page.location.href,
    title: page.document.title,
    old: page.document.title,
  });
});
