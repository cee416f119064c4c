import type { Site } from '@/core/model/site';
import { newChangeSchema } from '@/core/model/change';
import { newEventSchema } from '@/core/model/event';
import { listPages } from '@/store/addresses/pages';
import { newFeedSchema } from '@/core/model/feed';
import { addFeed } from '@/store/figures/feeds';
import { addImport } from '@/store/figures/imports';
import { addChange } from '@/store/ledger/changes';
import { addEvent } from '@/store/ledger/events';
import { addSite } from '@/store/sites';
import { newResultPageSchema } from '@/core/wording/resultPage';
import { keepResultPage } from '@/store/wording/resultPages';
import { newReportSchema } from '@/core/model/report';
import { addReport } from '@/store/reports/reports';
import { ACTIONS } from '../../tests/support/doorways';
import { aRound } from '../../tests/support/round';
import { TempStore } from '../../tests/support/tempDb';
import type { Action } from './action';

jest.mock('next/cache', () => ({ revalidatePath: () => {} }));
// What an action starts off its thread is none of this test: it asks what comes through the doorway.
jest.mock('@/jobs/runner', () => {
  const reached = async () => {
    throw new Error('A job was reached by rubbish.');
  };
  return new Proxy({}, { get: (_target, name) => (name === '__esModule' ? true : reached) });
});
jest.mock('@/jobs/inWorker', () => {
  const reached = async () => {
    throw new Error('A job was reached by rubbish.');
  };
  return new Proxy({}, { get: (_target, name) => (name === '__esModule' ? true : reached) });
});

type AnyAction = Action<never[], unknown>;

let store: TempStore;
let own: Site;
let other: Site;
/** The number of a thing of each kind, of the one site and of the other. */
let things: Record<string, { own: number; other: number }>;
const shared = globalThis as { __tallyDb?: unknown };

async function thingsOf(site: Site): Promise<Record<string, number>> {
  const { db } = store;
  const change = { title: 'T', kind: 'other', day: '2026-09-14', pages: ['/a'] };
  const event = { name: 'E', kind: 'other', firstDay: '2026-09-14' };
  const feed = { name: 'F', address: 'https://f.example/', token: '', daily: false, allowPrivate: false };
  const values = { siteId: site.id, fileName: 'a.csv', bytesTotal: 1, takenOn: 20_000 as never };
  const logged = await addChange(db, site, newChangeSchema.parse(change));
  const page = listPages(db, site.id)[0]!;
  const snapshot = db.$client
    .prepare(
      `INSERT INTO snapshot (site_id, page_id, day, last_day, taken_at, last_seen_at, evidence)
       VALUES (?, ?, 20000, 20000, 'now', 'now', '{}')`,
    )
    .run(site.id, page.id);
  return {
    site: site.id,
    change: logged.id,
    event: (await addEvent(db, site.id, newEventSchema.parse(event))).id,
    feed: await addFeed(db, site.id, newFeedSchema.parse(feed)),
    draft: await addImport(db, { ...values, state: 'draft' }),
    import: await addImport(db, { ...values, state: 'queued' }),
    page: page.id,
    query: Number(
      db.$client.prepare('INSERT INTO query (site_id, text) VALUES (?, ?)').run(site.id, 'smoker')
        .lastInsertRowid,
    ),
    snapshot: Number(snapshot.lastInsertRowid),
    round: await aRound(db, site, ['/a']),
    report: await addReport(
      db,
      site.id,
      newReportSchema.parse({ title: 'R', from: '2026-09-01', to: '2026-09-30' }),
    ),
    resultPage: await keepResultPage(
      db,
      site.id,
      newResultPageSchema.parse({
        ...{ query: 'smoker', day: '2026-09-14' },
        results: [{ rank: 1, address: 'https://r.example/', title: 'T' }],
      }),
    ),
  };
}

beforeEach(async () => {
  store = new TempStore();
  shared.__tallyDb = store.db;
  own = await store.site();
  other = await addSite(store.db, { name: 'Other', address: 'other.quillow-bees.example' });
  const [mine, theirs] = [await thingsOf(own), await thingsOf(other)];
  things = Object.fromEntries(
    Object.keys(mine).map((kind) => [kind, { own: mine[kind]!, other: theirs[kind]! }]),
  );
});
afterEach(() => {
  store.close();
  delete shared.__tallyDb;
});

const everything = () =>
  [
    'site',
    'change',
    'change_step',
    'change_history',
    'event',
    'event_history',
    'feed',
    'import',
    'put_off',
    'sighting',
    'page_look',
    'snapshot',
    'address',
    'page_trait',
    'query_trait',
    'kept_filter',
    'passed_opening',
    'sheet',
    'site_word',
    'result_page',
    'draft',
    'left_out_term',
    'round',
    'round_page',
    'round_history',
    'taken_opening',
    'report',
    'report_issue',
    'routine',
    'routine_done',
  ]
    .map((table) => JSON.stringify(store.rows(table)))
    .join('\n');

const RUBBISH: unknown[] = [
  ...[undefined, null, true, -1, 0, 1.5, NaN, Infinity, 1e300, '', 'constructor', '__proto__'],
  ...['\u0000', 'x'.repeat(100_000), [], [null], {}, { constructor: 1 }, { title: { toString: 1 } }],
  ...[Symbol.iterator, () => 1, new Date(NaN), new Map(), 10n ** 30n],
];

const call = (action: AnyAction, args: readonly unknown[]) =>
  (action as unknown as (...asked: unknown[]) => Promise<{ ok: boolean; errors?: unknown }>)(...args);

test('every action comes by the doorway', () => {
  expect(ACTIONS.length).toBeGreaterThan(25);
  for (const [name, action] of ACTIONS) expect([name, typeof action.described?.on]).toEqual([name, 'string']);
});

/** What each schema takes, so that it is the others that are found wrong. */
function anythingFor(action: AnyAction): unknown[] {
  const fitting: unknown[] = [
    ...['Title', '2026-09-14', 'undo', 'change', 'en', null, false, 1, 'title', 'all', [], [1], 'made', {}],
    { title: 'Edit' },
    { settlingDays: 7 },
    { title: 'T', kind: 'other', day: '2026-09-14', pages: ['/a'] },
    { name: 'E', kind: 'other', firstDay: '2026-09-14' },
    { decision: null, day: '2026-09-14' },
    { name: 'Site', address: 'third.quillow-bees.example' },
    { name: 'F', address: 'https://f.example/', token: '', daily: false, allowPrivate: false },
    { subject: 'pages', name: 'F', query: '' },
    { key: 'k', reason: 'r', clicksAMonth: 1 },
    { target: null, weight: null, sink: false },
    { targetPageId: null, intent: null, brand: null },
    { query: 'q', day: '2026-09-14', results: [{ rank: 1, address: 'https://r.example/', title: 'T' }] },
    { term: 'bee', written: 'bees' },
    [{ pageId: 1, text: 'T' }],
    { address: '', token: null, country: '' },
    { name: 'R', kind: 'other', pages: ['/a'], draw: 'all' },
    { half: 'first', day: '2026-09-14' },
    { pageIds: [1], step: 'crawled', day: null },
    [{ pageId: 1 }],
    { name: 'R', steps: [{ text: 'Look' }], rule: 'FREQ=DAILY', firstDay: '2026-09-14' },
    { dueOn: '2026-09-14', step: 0 },
    { title: 'R', from: '2026-09-01', to: '2026-09-30' },
    { email: 'x@quillow-bees.example', name: 'X', password: 'x' },
    { email: 'x@quillow-bees.example', password: 'x' },
    { email: 'x@quillow-bees.example', role: 'reader' },
    { current: 'x', password: 'x' },
    { name: 'X', password: 'x' },
    { name: 'X', right: 'read' },
    { lastDay: '2026-09-14' },
    ...['x@quillow-bees.example', '123456', 'report', 'reader'],
    own.rules,
  ];
  return action.described.args.map((schema) => {
    const found = fitting.find((value) => schema.safeParse(value).success);
    if (found === undefined) throw new Error('The test knows nothing that this schema takes.');
    return found;
  });
}

describe.each(ACTIONS)('%s', (_name, action) => {
  const { on } = action.described;
  const idsOf = (whose: 'own' | 'other') =>
    on === 'nothing' ? [] : on === 'site' ? [things.site![whose]] : [things.site![whose], things[on]![whose]];

  test('says no to rubbish in any place, and does nothing', async () => {
    const before = everything();
    const ids = idsOf('own');
    for (const rubbish of RUBBISH) {
      for (let place = 0; place < ids.length; place++) {
        const args = [...ids, ...anythingFor(action)];
        args[place] = rubbish as never;
        expect(await call(action, args)).toMatchObject({ ok: false });
      }
      for (const [i, schema] of action.described.args.entries()) {
        if (schema.safeParse(rubbish).success) continue;
        const args = [...ids, ...anythingFor(action)];
        args[ids.length + i] = rubbish;
        expect(await call(action, args)).toMatchObject({ ok: false });
      }
    }
    expect(await call(action, [...ids, ...anythingFor(action), 'one more'])).toMatchObject({ ok: false });
    expect(everything()).toBe(before);
  });

  test('says no to what is nested without end, wherever it stands', async () => {
    const before = everything();
    let deep: unknown = 1;
    for (let i = 0; i < 5000; i++) deep = i % 2 === 0 ? [deep] : { name: deep };
    for (const place of action.described.args.keys()) {
      const args: unknown[] = [...idsOf('own'), ...anythingFor(action)];
      args[idsOf('own').length + place] = deep;
      const [error] = (await call(action, args)).errors as { message: string }[];
      expect(error!.message).toMatch(/nested too deep/);
    }
    expect(everything()).toBe(before);
  });

  const { auditAction, args: schemas } = action.described;
  if (on === 'site' && auditAction !== undefined && schemas[0]?.safeParse(99_999).success)
    test('says so where what it is told to change is not there', async () => {
      const before = everything();
      const rest = anythingFor(action).slice(1);
      expect(await call(action, [...idsOf('own'), 99_999, ...rest])).toMatchObject({ ok: false });
      expect(everything()).toBe(before);
    });

  if (on !== 'nothing')
    test('does nothing to another site, nor to what is not there', async () => {
      const before = everything();
      const [mine, theirs] = [idsOf('own'), idsOf('other')];
      const wrong =
        on === 'site'
          ? [[9999]]
          : [
              [mine[0], theirs[1]],
              [theirs[0], mine[1]],
              [mine[0], 9999],
              [9999, mine[1]],
            ];
      for (const ids of wrong) {
        const result = await call(action, [...ids, ...anythingFor(action)]);
        expect(result).toMatchObject({
          ok: false,
          errors: [{ message: expect.stringMatching(/There is no such/) as string }],
        });
      }
      expect(everything()).toBe(before);
    });
});

test('an address is joined to a page of its own site and nowhere else', async () => {
  const { join } = (await import('./sites/[siteId]/addresses/actions')) as { join: AnyAction };
  store.db.$client
    .prepare('INSERT INTO address (site_id, text) VALUES (?, ?)')
    .run(own.id, `${own.address}/x`);
  const { id } = store.db.$client.prepare<[], { id: number }>('SELECT id FROM address').get()!;
  for (const page of ['javascript:alert(1)', 'https://elsewhere.example/', 'data:text/html,x'])
    expect(await call(join, [own.id, id, page])).toMatchObject({ ok: false });
  expect(await call(join, [other.id, id, '/a'])).toMatchObject({ ok: false });
});
