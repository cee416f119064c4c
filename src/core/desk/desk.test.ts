import { addDays, type Day } from '../calendar/day';
import { change, DAY } from '../../../tests/support/readingInput';
import type { Change } from '../model/change';
import type { StepDays } from '../model/steps';
import { deskLines, type DeskInput } from './desk';

const TODAY = addDays(DAY, 40);
const ago = (days: number) => addDays(TODAY, -days);
const lines = (over: Partial<DeskInput>) =>
  deskLines({
    ...{
      today: TODAY,
      changes: [],
      completeSince: new Map(),
      seenOld: new Map(),
      weeks: [],
      unlogged: [],
      putOff: new Map(),
      plainDrops: new Map(),
      rounds: [],
      routines: [],
      ofRounds: new Set<number>(),
    },
    ...over,
  });
const keys = (changes: Change[], over: Partial<DeskInput> = {}) =>
  lines({ changes, ...over }).map(({ key }) => key);
const stepped = (steps: StepDays, over: Partial<Change> = {}) => change({ steps, newText: 'new', ...over });

test.each<[string, Change, string[]]>([
  ['a plan whose day has come', stepped({ planned: ago(9) }, { day: TODAY }), ['to-make/1']],
  ['a plan for tomorrow', stepped({ planned: ago(9) }, { day: addDays(TODAY, 1) }), []],
  ['a request of today', stepped({ 'reindex-requested': TODAY }), []],
  ['a request of two days ago', stepped({ 'reindex-requested': ago(2) }), ['not-crawled/1']],
  ['a request that was served', stepped({ 'reindex-requested': ago(9), crawled: ago(1) }), []],
  ['a crawl of four days ago', stepped({ crawled: ago(4) }), ['old-text/1']],
  ['one of a change without text', stepped({ crawled: ago(4) }, { newText: null }), []],
  ['one that shows', stepped({ crawled: ago(9), 'seen-in-results': ago(7) }), []],
  ['what was decided', stepped({ crawled: ago(9) }, { decision: { decision: 'keep', reason: null } }), []],
])('%s', (_name, one, wanted) => {
  expect(keys([one])).toEqual(wanted);
});

test('what plainly drops before its days are over comes first, until it is decided on', () => {
  const made = stepped({ 'reindex-requested': ago(9) });
  const plainDrops = new Map([[1, ago(2)]]);
  expect(keys([made], { plainDrops })).toEqual(['plain-drop/1', 'not-crawled/1']);
  const decided = { ...made, decision: { decision: 'undo' as const, reason: null } };
  expect(keys([decided], { plainDrops })).toEqual([]);
});

test('results that were seen to show the old title are there at once', () => {
  const crawled = stepped({ crawled: ago(1) });
  expect(keys([crawled])).toEqual([]);
  expect(keys([crawled], { seenOld: new Map([[1, TODAY]]) })).toEqual(['old-text/1']);
});

test('a review is due from its day on, until it is reviewed', () => {
  const expectation = (reviewDay: Day) =>
    ({ metric: 'ctr', direction: 'up', amount: 0.2, reviewDay }) as const;
  expect(keys([change({ expectation: expectation(TODAY) })])).toEqual(['review-due/1']);
  expect(keys([change({ expectation: expectation(addDays(TODAY, 1)) })])).toEqual([]);
  expect(keys([change({ expectation: expectation(ago(5)), steps: { reviewed: ago(1) } })])).toEqual([]);
});

test('a reading that has just become complete is there for two weeks', () => {
  const since = (day: Day) => ({ completeSince: new Map([[1, day]]) });
  expect(keys([change()], since(TODAY))).toEqual(['complete/1']);
  expect(keys([change()], since(ago(13)))).toEqual(['complete/1']);
  expect(keys([change()], since(ago(14)))).toEqual([]);
  expect(keys([change()], since(addDays(TODAY, 1)))).toEqual([]);
});

test('what was done and not logged stands before what fell', () => {
  const found = lines({
    unlogged: [{ snapshotId: 7, pageId: 3, path: '/c/', foundOn: ago(2) }],
    weeks: [{ pageId: 1, path: '/a/', before: 100, after: 50 }],
  });
  expect(found.map(({ key }) => key)).toEqual(['unlogged/7', 'fell-back/1']);
  expect(found[0]).toMatchObject({ title: '/c/', pageId: 3, detail: { since: ago(2) } });
});

test('pages that fell by more than a fifth on the week before, the largest fall first', () => {
  const week = (pageId: number, before: number, after: number) => ({
    pageId,
    path: `/${pageId}/`,
    before,
    after,
  });
  const found = lines({
    weeks: [week(1, 100, 79), week(2, 100, 80), week(3, 19, 0), week(4, 400, 200), week(5, 50, 90)],
  });
  // 100 to 79 is what counting alone brings; it is one of those that are counted in the last line.
  expect(found.map(({ key }) => key)).toEqual(['fell-back/4', 'fell-back/ordinary']);
  expect(found[0]).toMatchObject({ title: '/4/', pageId: 4, detail: { before: 400, after: 200 } });
  expect(found[1]).toMatchObject({
    title: '1 more page within ordinary movement',
    detail: { before: 100, after: 79 },
  });
});

test('falls that are ordinary for a page are one line with a count, and both limits can be set', () => {
  // Twelve pages that go up and down by a third every week, as they always did; one that always stood still.
  const restless = Array.from({ length: 12 }, (_, i) => ({
    ...{ pageId: i + 1, path: `/${i + 1}/`, before: 430, after: 280 },
    past: Array.from({ length: 26 }, (_week, w) => (w % 2 === 0 ? 280 : 430)),
  }));
  const still = {
    pageId: 99,
    path: '/still/',
    before: 430,
    after: 280,
    past: Array.from({ length: 26 }, () => 425),
  };
  const found = lines({ weeks: [...restless, still] });
  expect(found.map(({ key, title }) => [key, title])).toEqual([
    ['fell-back/99', '/still/'],
    ['fell-back/ordinary', '12 more pages within ordinary movement'],
  ]);
  expect(lines({ weeks: [...restless, still], fallLimits: { share: 0.2, beyond: 1 } })).toHaveLength(2);
  expect(lines({ weeks: [...restless, still], fallLimits: { share: 0.2, beyond: 0.5 } })).toHaveLength(13);
  expect(lines({ weeks: [still], fallLimits: { share: 0.5, beyond: 3 } })).toEqual([]);
});

test('what is due comes in the order in which to do it, and what was put off comes back on its day', () => {
  const changes = [
    change({ id: 1, expectation: { metric: 'ctr', direction: 'up', amount: null, reviewDay: ago(3) } }),
    stepped({ planned: ago(9) }, { id: 2, day: ago(1) }),
    stepped({ 'reindex-requested': ago(5) }, { id: 3 }),
    stepped({ 'reindex-requested': ago(9) }, { id: 4 }),
  ];
  expect(keys(changes)).toEqual(['to-make/2', 'not-crawled/4', 'not-crawled/3', 'review-due/1']);
  const putOff = new Map([
    ['to-make/2', addDays(TODAY, 1)],
    ['review-due/1', TODAY],
  ]);
  expect(keys(changes, { putOff })).toEqual(['not-crawled/4', 'not-crawled/3', 'review-due/1']);
});

test('a round that waits for somebody stands for the changes of its halves', () => {
  const rounds = [{ id: 3, name: 'Autumn titles', what: 'to be decided', since: ago(2) }];
  const plan = stepped({ planned: ago(9) }, { day: TODAY });
  expect(lines({ changes: [plan], ofRounds: new Set([plan.id]), rounds })).toEqual([
    {
      ...{ key: 'round-due/3/to be decided', kind: 'round-due', title: 'Autumn titles: to be decided' },
      ...{ changeId: null, pageId: null, roundId: 3, detail: { since: ago(2), before: null, after: null } },
    },
  ]);
});
