import { z } from 'zod';
import { TempStore } from '../../../../tests/support/tempDb';
import { newFeedSchema } from '@/core/model/feed';
import { addFeed, updateFeed } from '@/store/figures/feeds';
import { timestamp } from '@/store/write';
import { answer, operation } from './doorway';

let store: TempStore;
const shared = globalThis as { __tallyDb?: unknown };
beforeEach(() => {
  store = new TempStore();
  shared.__tallyDb = store.db;
});
afterEach(() => {
  store.close();
  delete shared.__tallyDb;
});

const at = (parameters: Record<string, string> = {}) => ({ params: Promise.resolve(parameters) });
const get = (query = '') => new Request(`http://127.0.0.1/x${query}`);
const post = (body: string) => new Request('http://127.0.0.1/x', { method: 'POST', body });

test('an operation is given what its address names, and answers where there is no such thing', async () => {
  const site = await store.site();
  const one = operation({ summary: 'Name', on: 'site', may: 'read', answers: {} }, ({ site: found }) =>
    Response.json(found.name),
  );
  expect(await (await one(get(), at({ siteId: String(site.id) }))).json()).toBe('Quillow Bee Yard');
  for (const siteId of ['99', 'x', '', '1e3', '9'.repeat(30)]) {
    const missing = await one(get(), at({ siteId }));
    expect([missing.status, (await missing.json()).detail]).toEqual([404, `There is no site ${siteId}.`]);
  }
});

test('what comes in is checked by the schemas that describe it, before the handler sees it', async () => {
  const seen: unknown[] = [];
  const body = z.object({ name: z.string('A name.').min(1), times: z.int().default(1) });
  const query = z.object({ days: z.coerce.number().max(9).optional() });
  const one = operation(
    {
      summary: 'Add',
      on: 'nothing',
      may: 'administer',
      body,
      query,
      answers: { '201': answer('It', z.string()) },
    },
    (asked) => {
      seen.push([asked.body, asked.query, asked.given]);
      return new Response(null, { status: 201 });
    },
  );
  expect((await one(post('{"name": "a"}'), at())).status).toBe(201);
  // What was left out is filled in for the handler, which can still tell that it was left out.
  expect(seen).toEqual([[{ name: 'a', times: 1 }, {}, { name: 'a' }]]);
  const wrong = await one(post('{"name": 5}'), at());
  expect([wrong.status, (await wrong.json()).errors]).toEqual([422, [{ field: 'name', message: 'A name.' }]]);
  expect((await one(post('{'), at())).status).toBe(400);
  expect((await one(post('[]'), at())).status).toBe(422);
  expect(seen).toHaveLength(1);
  expect(one.described).toMatchObject({
    summary: 'Add',
    requestBody: { required: true },
    responses: { '201': { description: 'It' }, '400': {}, '422': {} },
  });
});

test('a feed that was taken away is not there, and its token never goes out', async () => {
  const site = await store.site();
  const input = { name: 'Yard', address: 'https://feed.example/x', token: 'secret', daily: true };
  const id = await addFeed(store.db, site.id, newFeedSchema.parse({ ...input, allowPrivate: false }));
  const { GET } = await import('./feeds/[feedId]/operations');
  const found = await GET(get(), at({ feedId: String(id) }));
  const text = await found.text();
  expect(JSON.parse(text)).toMatchObject({ id, name: 'Yard', hasToken: true, state: 'idle', failure: null });
  expect(text).not.toContain('secret');
  await updateFeed(store.db, id, { deletedAt: timestamp() });
  expect((await GET(get(), at({ feedId: String(id) }))).status).toBe(404);
});
