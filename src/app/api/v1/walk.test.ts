import type { Site } from '@/core/model/site';
import { newChangeSchema } from '@/core/model/change';
import { newEventSchema } from '@/core/model/event';
import { listPages } from '@/store/addresses/pages';
import { newFeedSchema } from '@/core/model/feed';
import { addFeed } from '@/store/figures/feeds';
import { addImport } from '@/store/figures/imports';
import { addChange, editChange } from '@/store/ledger/changes';
import { findChange } from '@/store/ledger/findChanges';
import { addEvent } from '@/store/ledger/events';
import { newResultPageSchema } from '@/core/wording/resultPage';
import { keepResultPage } from '@/store/wording/resultPages';
import { newReportSchema } from '@/core/model/report';
import { bookOf } from '@/core/scorebook/book';
import type { ScoredBy } from '@/core/scorebook/scorebook';
import { addReport } from '@/store/reports/reports';
import { aRound } from '../../../../tests/support/round';
import { TempStore } from '../../../../tests/support/tempDb';
import type { Operation } from './doorway';
import { operationsByPath } from './routes';

// What routes start off their thread is none of this test.
jest.mock('@/jobs/runner', () => {
  const nothing = async () => null;
  return new Proxy({}, { get: (_target, name) => (name === '__esModule' ? true : nothing) });
});
jest.mock('@/jobs/inWorker', () => {
  const nothing = async () => null;
  return new Proxy({}, { get: (_target, name) => (name === '__esModule' ? true : nothing) });
});
jest.mock('@/jobs/questions/ask', () => ({
  ask: async (name: string) => (name === 'plainDrops' ? [] : null),
  askReadings: async function* () {},
  askScorebook: async (_siteIds: readonly number[], by: ScoredBy) =>
    bookOf({ scored: [], forecasts: [], openings: [] }, by),
}));

const WALKED = operationsByPath().flatMap(([path, operations]) =>
  operations.map(([method, operation]) => [`${method} ${path}`, method, path, operation] as const),
);

let store: TempStore;
let site: Site;
let ids: Record<string, number>;
const shared = globalThis as { __tallyDb?: unknown };
beforeEach(async () => {
  store = new TempStore();
  shared.__tallyDb = store.db;
  site = await store.site();
  const { db } = store;
  const change = { title: 'T', kind: 'other', day: '2026-09-14', pages: ['/a'] };
  const event = { name: 'E', kind: 'other', firstDay: '2026-09-14' };
  const feed = { name: 'F', address: 'https://f.example/', token: '', daily: false, allowPrivate: false };
  const changeId = (await addChange(db, site, newChangeSchema.parse(change))).id;
  const evidence = {
    ...{ status: 200, finalAddress: `${site.address}/a`, title: 'T', description: null, canonical: null },
    ...{ robots: [], headings: [], structuredData: [], words: 1, text: 'x', links: [], images: 0 },
    ...{ imagesWithoutAlt: [], encoding: 'utf-8', misfits: 0 },
  };
  const snapshotId = db.$client
    .prepare(
      `INSERT INTO snapshot (site_id, page_id, day, last_day, taken_at, last_seen_at, evidence)
       VALUES (?, ?, 20000, 20000, '2026-01-01T00:00:00Z', '2026-01-01T00:00:00Z', ?)`,
    )
    .run(site.id, listPages(db, site.id)[0]!.id, JSON.stringify(evidence)).lastInsertRowid;
  const values = { siteId: site.id, fileName: 'a.csv', bytesTotal: 1, takenOn: 20_000 as never };
  ids = {
    ...{ siteId: site.id, changeId, snapshotId: Number(snapshotId) },
    pageId: listPages(db, site.id)[0]!.id,
    queryId: Number(
      db.$client.prepare('INSERT INTO query (site_id, text) VALUES (?, ?)').run(site.id, 'smoker')
        .lastInsertRowid,
    ),
    resultPageId: await keepResultPage(
      db,
      site.id,
      newResultPageSchema.parse({
        ...{ query: 'smoker', day: '2026-09-14' },
        results: [{ rank: 1, address: 'https://rival.example/', title: 'T' }],
      }),
    ),
    roundId: await aRound(db, site, ['/a']),
    reportId: await addReport(
      db,
      site.id,
      newReportSchema.parse({ title: 'R', from: '2026-09-01', to: '2026-09-30' }),
    ),
    eventId: (await addEvent(db, site.id, newEventSchema.parse(event))).id,
    feedId: await addFeed(db, site.id, newFeedSchema.parse(feed)),
    importId: await addImport(db, { ...values, state: 'queued' }),
  };
});
afterEach(() => {
  store.close();
  delete shared.__tallyDb;
});

/** Bodies of other types are read by routes themselves; files of every kind have tests of their own. */
const takesJson = ({ described }: Operation) =>
  Object.hasOwn(
    (described.requestBody as { content?: object } | undefined)?.content ?? {},
    'application/json',
  );

/** The fields of the body of an operation, and the parameters of its query, by their names. */
const fieldsOf = ({ described }: Operation): string[] => {
  const content = (described.requestBody as { content?: Record<string, { schema?: unknown }> })?.content;
  return shapeOf(content?.['application/json']?.schema);
};
const parametersOf = ({ described }: Operation): string[] =>
  shapeOf((described.requestParams as { query?: unknown } | undefined)?.query);
const shapeOf = (schema: unknown): string[] =>
  Object.keys((schema as { shape?: object } | undefined)?.shape ?? {});

const at = (over: Record<string, string> = {}) => ({
  params: Promise.resolve({
    ...Object.fromEntries(Object.entries(ids).map(([name, id]) => [name, String(id)])),
    ...over,
  }),
});
const asked = (method: string, body?: string, headers: Record<string, string> = {}, query = '') =>
  new Request(`http://127.0.0.1/x${query}`, {
    method,
    headers: { 'Content-Type': 'application/json', ...headers },
    ...(body === undefined || method === 'GET' ? {} : { body }),
  });
const problemOf = async (answer: Response) => {
  expect(answer.headers.get('content-type')).toBe('application/problem+json');
  return (await answer.json()) as { status: number; detail: string };
};
const everything = () =>
  [
    'site',
    'change',
    'change_history',
    'event',
    'event_history',
    'feed',
    'snapshot',
    'page_trait',
    'query_trait',
  ]
    .map((table) => JSON.stringify(store.rows(table)))
    .join('\n');

const BODIES = [
  ...['', '{', 'null', '[]', '5', '"x"', '[[]]', '{"constructor": 1}', '{"__proto__": {"a": 1}}', '\u0000'],
  ...['{"title": {"toString": 1}}', `{"title": "${'x'.repeat(10_000)}"}`, '{"pages": [null]}'],
  ...['{"day": "0001-01-01"}', '{"id": -1}', '[{"a": 1}]', '{"note": 1e999}'],
];

const DEEP = `${'['.repeat(5000)}${']'.repeat(5000)}`;
/** Values of a query that no parameter means. */
const QUERIES = [
  ...[DEEP, '{"a":'.repeat(5000), '\u0000', 'x'.repeat(5000), '-1', '1e309', 'https://other.example/', '[]'],
  ...['../..', '2026-02-30', 'NaN', '9007199254740993', '__proto__', ' ', '{}', "' OR 1=1 --"],
];

describe.each(WALKED)('%s', (_name, method, path, operation) => {
  const parameter = /\{(\w+)\}/.exec(path)?.[1];

  test('answers rubbish with a problem, and never with a fault of its own', async () => {
    const before = everything();
    for (const body of takesJson(operation) ? BODIES : []) {
      const answer = await operation(asked(method, body, { 'If-Match': '*' }), at());
      expect([body, answer.status >= 400 && answer.status < 500]).toEqual([body, true]);
      await problemOf(answer);
    }
    for (const id of parameter ? ['0', '-1', '99999', 'x', '1e3', '1 OR 1', '9'.repeat(40), '%00', ''] : []) {
      const answer = await operation(asked(method, '{}'), at({ [parameter!]: id }));
      expect([id, answer.status]).toEqual([id, 404]);
      await problemOf(answer);
    }
    expect(everything()).toBe(before);
  });

  test('answers what is nested without end, and whatever is asked for by its parameters', async () => {
    const before = everything();
    const bodies = [DEEP, ...fieldsOf(operation).map((field) => `{${JSON.stringify(field)}: ${DEEP}}`)];
    for (const body of takesJson(operation) ? bodies : []) {
      const answer = await operation(asked(method, body, { 'If-Match': '*' }), at());
      expect([body.slice(0, 40), answer.status]).toEqual([body.slice(0, 40), 400]);
    }
    // What takes a file reads it off the request thread, which has no place here.
    const names = method === 'GET' || takesJson(operation) ? parametersOf(operation) : [];
    for (const name of names) {
      for (const value of QUERIES) {
        const query = `?${name}=${encodeURIComponent(value)}`;
        const answer = await operation(asked(method, '{}', {}, query), at());
        expect([query.slice(0, 60), answer.status < 500]).toEqual([query.slice(0, 60), true]);
      }
    }
    expect(everything()).toBe(before);
  });

  if (method === 'GET')
    test('has a version, and says nothing again to whoever has it', async () => {
      const first = await operation(asked(method, undefined, {}, '?page=/a'), at());
      const plain = first.status === 422 ? await operation(asked(method), at()) : first;
      expect(plain.status).toBeLessThan(500);
      if (plain.status !== 200 || !plain.headers.get('content-type')?.startsWith('application/json')) return;
      const tag = plain.headers.get('etag')!;
      expect(tag).toMatch(/^"[\w-]{22}"$/);
      const query = first.status === 422 ? '' : '?page=/a';
      for (const known of [tag, `W/${tag}`, `"other", ${tag}`, '*']) {
        const again = await operation(asked(method, undefined, { 'If-None-Match': known }, query), at());
        expect([again.status, await again.text()]).toEqual([304, '']);
      }
      const other = await operation(asked(method, undefined, { 'If-None-Match': '"other"' }, query), at());
      expect(other.status).toBe(200);
    });

  if (parameter && parameter !== 'siteId' && method !== 'GET')
    test('does nothing for whoever began from another version', async () => {
      const before = everything();
      for (const condition of ['"other"', 'W/"other"', '"a", "b"']) {
        const answer = await operation(asked(method, '{}', { 'If-Match': condition }), at());
        expect((await problemOf(answer)).detail).toMatch(/was changed since it was read/);
        expect(answer.status).toBe(412);
      }
      const malformed = await operation(asked(method, '{}', { 'If-Match': 'other' }), at());
      expect(malformed.status).toBe(400);
      expect(everything()).toBe(before);
    });

  test('a field that nobody knows is refused by name', async () => {
    if (!takesJson(operation)) return;
    const answer = await operation(asked(method, '{"nonesuch": 1}'), at());
    expect(answer.status).toBe(422);
    expect(JSON.stringify(await problemOf(answer))).toContain(
      '{"field":"nonesuch","message":"There is no such field."}',
    );
  });
});

test('of two who edit the same, the later is told, and nothing of the earlier is lost', async () => {
  const { GET, PATCH, DELETE } = await import('./changes/[changeId]/operations');
  const tag = (await GET(asked('GET'), at())).headers.get('etag')!;
  const first = await PATCH(asked('PATCH', '{"note": "first"}', { 'If-Match': tag }), at());
  expect([first.status, first.headers.get('etag')]).toEqual([
    200,
    (await GET(asked('GET'), at())).headers.get('etag'),
  ]);
  const second = await PATCH(asked('PATCH', '{"note": "second"}', { 'If-Match': tag }), at());
  expect(second.status).toBe(412);
  expect((await DELETE(asked('DELETE', undefined, { 'If-Match': tag }), at())).status).toBe(412);
  expect(findChange(store.db, ids.changeId!)?.note).toBe('first');
  const now = first.headers.get('etag')!;
  expect((await PATCH(asked('PATCH', '{"note": "second"}', { 'If-Match': now }), at())).status).toBe(200);
});

test('the condition holds in the very transaction that writes', async () => {
  const { GET, PATCH } = await import('./changes/[changeId]/operations');
  const tag = (await GET(asked('GET'), at())).headers.get('etag')!;
  const request = asked('PATCH', '{"note": "late"}', { 'If-Match': tag });
  // Somebody else writes while the body of this request is still being read.
  const reading = request.body!.getReader.bind(request.body);
  request.body!.getReader = ((...args: []) => {
    void editChange(store.db, site, ids.changeId!, { note: 'early' });
    return reading(...args);
  }) as typeof reading;
  expect((await PATCH(request, at())).status).toBe(412);
  expect(findChange(store.db, ids.changeId!)?.note).toBe('early');
});

test('what is answered with can be sent back with some of it edited', async () => {
  const change = await import('./changes/[changeId]/operations');
  const event = await import('./events/[eventId]/operations');
  const got = (await (await change.GET(asked('GET'), at())).json()) as object;
  const edited = await change.PATCH(asked('PATCH', JSON.stringify({ ...got, note: 'x' })), at());
  expect([edited.status, (await edited.json()).note]).toEqual([200, 'x']);
  const moved = await change.PATCH(asked('PATCH', JSON.stringify({ ...got, siteId: 99 })), at());
  expect([moved.status, (await moved.json()).errors]).toEqual([
    422,
    [{ field: 'siteId', message: 'There is no such field.' }],
  ]);
  const noted = (await (await event.GET(asked('GET'), at())).json()) as object;
  expect((await event.PUT(asked('PUT', JSON.stringify({ ...noted, name: 'Other' })), at())).status).toBe(200);
});

test('a key that was used for what was deleted since is refused in a sentence', async () => {
  const changes = await import('./sites/[siteId]/changes/operations');
  const change = await import('./changes/[changeId]/operations');
  const body = JSON.stringify({ title: 'K', kind: 'other', day: '2026-09-14', pages: ['/k'] });
  const log = () => changes.POST(asked('POST', body, { 'Idempotency-Key': 'k' }), at());
  const { id } = (await (await log()).json()) as { id: number };
  expect(((await (await log()).json()) as { id: number }).id).toBe(id);
  await change.DELETE(asked('DELETE'), at({ changeId: String(id) }));
  const again = await log();
  expect([again.status, (await problemOf(again)).detail]).toEqual([
    409,
    expect.stringMatching(/was deleted since/),
  ]);
});
