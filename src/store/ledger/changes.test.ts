import {
  changeEditSchema,
  kindsOf,
  newChangeSchema,
  newTitleOf,
  type NewChange,
  type NewChangeInput,
} from '../../core/model/change';
import { changedFields } from '../../core/model/changeHistory';
import { newEventSchema } from '../../core/model/event';
import type { Site } from '../../core/model/site';
import { day, HOME, TempStore } from '../../../tests/support/tempDb';
import { historyOf, restoreChange } from './changeHistory';
import { addChange, editChange, recordDecision, recordStep, setChangeDeleted } from './changes';
import { changesOnPages, findChange, listChanges } from './findChanges';
import { addEvent, listEvents, saveEvent, setEventDeleted } from './events';
import { InputError } from '../inputError';
import { listPages } from '../addresses/pages';
import { addSite } from '../sites';

let store: TempStore;
let site: Site;
beforeEach(async () => {
  store = new TempStore();
  site = await store.site();
});
afterEach(() => store.close());

const input = (over: Partial<NewChangeInput> = {}): NewChange =>
  newChangeSchema.parse({
    title: 'Shorter title',
    kind: 'Title rewrite',
    day: '2026-09-14',
    pages: ['/guides/'],
    ...over,
  });

test('a change is kept as it was given, in normal form', async () => {
  const change = await addChange(
    store.db,
    site,
    input({
      pages: ['/guides/', 'http://quillow-bees.example/guides/', '/shop/'],
      queries: ['Bee  Smoker', 'bee smoker'],
      oldText: ' old ',
      newText: '',
      expectation: { metric: 'ctr', amount: 0.25, reviewDay: '2026-10-14' },
      link: 'https://tickets.quillow-bees.example/BEE-212',
    }),
  );
  expect(change).toMatchObject({
    kind: 'title-rewrite',
    day: day('2026-09-14'),
    queries: ['bee smoker'],
    oldText: 'old',
    newText: null,
    expectation: { metric: 'ctr', direction: 'up', amount: 0.25, reviewDay: day('2026-10-14') },
  });
  expect(change.pages.map((page) => page.address)).toEqual([`${HOME}/guides/`, `${HOME}/shop/`]);
  expect(findChange(store.db, change.id)).toEqual(change);
  expect(listChanges(store.db, site.id)).toEqual([change]);
});

test('an address of another site is refused by name, and nothing is stored', async () => {
  const adding = addChange(
    store.db,
    site,
    input({ pages: ['/guides/', 'https://www.other-yard.example/x'] }),
  );
  await expect(adding).rejects.toMatchObject({ name: 'InputError', field: 'pages.1' });
  await expect(adding).rejects.toBeInstanceOf(InputError);
  expect([...store.rows('change'), ...store.rows('page')]).toEqual([]);
});

test('an edit changes what is given, keeps the rest, and keeps what was said before', async () => {
  const change = await addChange(store.db, site, input({ note: 'first', queries: ['bee smoker'] }));
  const edited = await editChange(store.db, site, change.id, { title: 'Other title' });
  expect(edited).toEqual({ ...change, title: 'Other title' });
  const moved = await editChange(store.db, site, change.id, {
    pages: ['/shop/'],
    queries: [],
    expectation: null,
  });
  expect(moved.pages.map((page) => page.address)).toEqual([`${HOME}/shop/`]);
  expect(moved).toMatchObject({ queries: [], note: 'first' });
  const history = store.rows('change_history') as { was: string }[];
  expect(history.map(({ was }) => (JSON.parse(was) as { title: string }).title)).toEqual([
    'Shorter title',
    'Other title',
  ]);
});

test('a deleted change is out of every list, and comes back whole', async () => {
  const change = await addChange(store.db, site, input());
  await setChangeDeleted(store.db, change.id, true);
  expect(listChanges(store.db, site.id)).toEqual([]);
  expect(findChange(store.db, change.id)).toBeNull();
  expect(changesOnPages(store.db, [change.pages[0]!.id])).toEqual([]);
  await setChangeDeleted(store.db, change.id, false);
  expect(findChange(store.db, change.id)).toEqual(change);
});

test('changes are found by their pages', async () => {
  const both = await addChange(store.db, site, input({ pages: ['/guides/', '/shop/'] }));
  const one = await addChange(store.db, site, input({ pages: ['/shop/'], day: '2026-09-20' }));
  const idOf = (path: string) =>
    listPages(store.db, site.id).find((page) => page.address === HOME + path)!.id;
  expect(changesOnPages(store.db, [idOf('/guides/')]).map((c) => c.id)).toEqual([both.id]);
  expect(changesOnPages(store.db, [idOf('/shop/'), idOf('/guides/')]).map((c) => c.id)).toEqual([
    one.id,
    both.id,
  ]);
});

test('one address has one site', async () => {
  await expect(
    addSite(store.db, { name: 'Again', address: 'WWW.quillow-bees.example' }),
  ).rejects.toMatchObject({
    field: 'address',
    status: 409,
  });
});

describe('input', () => {
  const problems = (over: object) =>
    newChangeSchema.safeParse({ ...input(), ...over }).error?.issues.map((issue) => issue.path.join('.'));

  test.each([
    [{ title: ' ' }, 'title'],
    [{ day: '2026-02-30' }, 'day'],
    [{ day: '14.09.2026' }, 'day'],
    [{ pages: [] }, 'pages'],
    [{ windowDays: 0 }, 'windowDays'],
    [{ settlingDays: -1 }, 'settlingDays'],
    [{ link: 'javascript:alert(1)' }, 'link'],
    [{ expectation: { metric: 'revenue' } }, 'expectation.metric'],
    [{ expectation: { metric: 'ctr', amount: -1 } }, 'expectation.amount'],
    [{ expectation: { metric: 'ctr', reviewDay: 'soon' } }, 'expectation.reviewDay'],
    [{ kind: '!!' }, 'kind'],
  ])('%p is refused at %s', (over, field) => {
    expect(problems(over)).toEqual([field]);
  });

  test('an edit without a field does not name it', () => {
    const given = { note: 'only this' };
    const parsed = changeEditSchema.parse(given);
    expect(parsed.note).toBe('only this');
    expect(parsed.title).toBeUndefined();
  });
});

describe('the almanac', () => {
  const event = (over: object = {}) =>
    newEventSchema.parse({
      name: 'Clover update',
      kind: 'algorithm-update',
      firstDay: '2026-10-06',
      ...over,
    });

  test('without a last day an event lasts one day', async () => {
    const stored = await addEvent(store.db, site.id, event());
    expect([stored.firstDay, stored.lastDay]).toEqual([day('2026-10-06'), day('2026-10-06')]);
  });

  test('events are listed newest first, edited, deleted and brought back', async () => {
    const first = await addEvent(store.db, site.id, event());
    const second = await addEvent(
      store.db,
      site.id,
      event({ name: 'Thistle update', firstDay: '2026-10-20' }),
    );
    expect(listEvents(store.db, site.id)).toEqual([second, first]);
    await saveEvent(store.db, first.id, event({ lastDay: '2026-10-13' }));
    await setEventDeleted(store.db, second.id, true);
    expect(listEvents(store.db, site.id)).toEqual([{ ...first, lastDay: day('2026-10-13') }]);
    await setEventDeleted(store.db, second.id, false);
    expect(listEvents(store.db, site.id)).toHaveLength(2);
  });

  test.each([{ lastDay: '2026-10-01' }, { kind: 'weather' }, { name: '' }, { firstDay: '2026-10-32' }])(
    '%p is refused',
    (over) => {
      expect(() => event(over)).toThrow();
    },
  );
});

describe('parts and tags', () => {
  const parts = [
    { kind: 'Headings', oldText: 'H1 a', newText: 'H1 b' },
    { kind: 'title-rewrite', page: '/shop/', newText: 'Shop' },
  ];
  const pages = ['/guides/', '/shop/'];

  test('are kept with the change, each part with its page', async () => {
    const { id } = await addChange(
      store.db,
      site,
      input({ pages, parts, tags: ['Autumn  Round', 'autumn round'] }),
    );
    const change = findChange(store.db, id)!;
    expect(change.tags).toEqual(['autumn round']);
    expect(change.parts).toMatchObject([
      { kind: 'headings', page: null, oldText: 'H1 a', newText: 'H1 b' },
      { kind: 'title-rewrite', page: change.pages[1], oldText: null, newText: 'Shop' },
    ]);
    expect(kindsOf(change)).toEqual(['title-rewrite', 'headings']);
    expect(newTitleOf({ ...change, newText: 'All' }, change.pages[0]!.id)).toBe('All');
    expect(newTitleOf({ ...change, newText: 'All' }, change.pages[1]!.id)).toBe('Shop');
  });

  test('of a page that is not among those of the change are refused, and nothing is stored', async () => {
    const adding = addChange(store.db, site, input({ parts }));
    await expect(adding).rejects.toMatchObject({ name: 'InputError', field: 'parts.1.page' });
    expect(store.rows('change')).toEqual([]);
  });

  test('go with a page that is taken off, and come back with its history', async () => {
    const { id } = await addChange(store.db, site, input({ pages, parts, tags: ['a'] }));
    const before = findChange(store.db, id)!;
    const edited = await editChange(store.db, site, id, { pages: ['/guides/'], tags: ['b'] });
    expect([edited.parts.length, edited.tags]).toEqual([1, ['b']]);
    const [entry] = historyOf(store.db, id);
    expect(changedFields(before, edited)).toEqual(['pages', 'parts', 'tags']);
    expect(await restoreChange(store.db, site, id, entry!.id)).toEqual(before);
  });
});

describe('what is checked whichever way it comes', () => {
  const log = async (over: Partial<NewChangeInput> = {}) => (await addChange(store.db, site, input(over))).id;

  test('a change follows one that stands, of its own site, and never itself, straight or in a circle', async () => {
    const [first, second, third] = [await log(), await log(), await log()];
    const other = await addSite(store.db, { name: 'Other', address: 'other.quillow-bees.example' });
    const elsewhere = (await addChange(store.db, other, input())).id;
    const follow = (id: number, followsId: number) => editChange(store.db, site, id, { followsId });
    await follow(second, first);
    await follow(third, second);
    for (const [id, followsId] of [
      [first, first],
      [first, third],
      [second, third],
      [first, elsewhere],
      [first, 9999],
    ] as const)
      await expect(follow(id, followsId)).rejects.toMatchObject({ name: 'InputError', field: 'followsId' });
    await expect(log({ followsId: elsewhere })).rejects.toMatchObject({ field: 'followsId' });
    // Nor does going back in a history lead there.
    await editChange(store.db, site, second, { followsId: null });
    await follow(first, second);
    const [, entry] = historyOf(store.db, second);
    await expect(restoreChange(store.db, site, second, entry!.id)).resolves.toBeTruthy();
    const withFirst = historyOf(store.db, second).find(({ was }) => was.followsId === first);
    await expect(restoreChange(store.db, site, second, withFirst!.id)).rejects.toMatchObject({
      field: 'followsId',
    });
    await setChangeDeleted(store.db, third, true);
    await expect(follow(first, third)).rejects.toMatchObject({ field: 'followsId' });
  });

  test('a day to come makes a plan of a change, also of one that is edited', async () => {
    const id = await log();
    const planned = await editChange(store.db, site, id, { day: '2099-01-01' });
    expect([planned.steps.planned !== undefined, planned.steps.made]).toEqual([true, undefined]);
    const made = await editChange(store.db, site, id, { day: '2026-09-14', planned: false });
    expect(made.steps.made).toBe(day('2026-09-14'));
    // Another day is another day of its step as well.
    expect((await editChange(store.db, site, id, { day: '2026-09-20' })).steps.made).toBe(day('2026-09-20'));
    for (const doing of [
      recordStep(store.db, id, { step: 'crawled', day: '2099-01-01' }),
      recordStep(store.db, id, { step: 'made', day: '2099-01-01' }),
      recordDecision(store.db, id, { decision: 'keep', reason: null, day: '2099-01-01' }),
    ])
      await expect(doing).rejects.toMatchObject({ name: 'InputError', field: 'day' });
  });

  test('what was deleted elsewhere is not edited behind its back', async () => {
    const id = await log();
    await setChangeDeleted(store.db, id, true);
    await expect(editChange(store.db, site, id, { note: 'x' })).rejects.toThrow(/was deleted meanwhile/);
    await expect(recordStep(store.db, id, { step: 'made', day: null })).rejects.toThrow(
      /was deleted meanwhile/,
    );
    expect(store.rows('change_history')).toEqual([]);
  });
});
