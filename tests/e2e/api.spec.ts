import { gzipSync } from 'node:zlib';
import { readdirSync } from 'node:fs';
import http from 'node:http';
import { Validator } from '@seriousme/openapi-schema-validator';
import { DATA, dailyCsv, EMPTY, expect, importDone, test } from './support';

test.use({ baseURL: EMPTY });

test('a script adds a site, brings figures in, logs a change and reads it', async ({ request }) => {
  const site = await request.post('/api/v1/sites', {
    data: { name: 'Script', address: 'https://script.quillow-bees.example' },
  });
  expect(site.status()).toBe(201);
  const { id, name, address } = await site.json();
  expect({ name, address }).toEqual({ name: 'Script', address: 'https://script.quillow-bees.example' });
  expect(await (await request.get('/api/v1/sites')).json()).toContainEqual({ id, name, address });

  const csv = dailyCsv('/guides/', '2026-01-01', 120, '2026-03-01', [20, 30]);
  const sent = await request.post(`/api/v1/sites/${id}/imports`, {
    data: csv,
    headers: { 'Content-Type': 'text/csv' },
  });
  expect(sent.status()).toBe(202);
  expect(await importDone(request, `/api/v1/imports/${(await sent.json()).id}`)).toMatchObject({
    ...{ state: 'done', grain: 'page_day', rowsRead: 120, rowsStored: 120, rowsRefused: 0 },
    ...{ firstDay: '2026-01-01', lastDay: '2026-04-30', problems: [] },
  });

  const logged = await request.post(`/api/v1/sites/${id}/changes`, {
    data: {
      ...{
        title: 'New guide title',
        kind: 'title-rewrite',
        day: '2026-03-01',
        pages: ['https://script.quillow-bees.example/guides/'],
      },
      ...{
        queries: ['guides'],
        expectation: { metric: 'ctr', direction: 'up', amount: 0.25, reviewDay: '2026-04-01' },
        note: 'n',
      },
    },
  });
  expect(logged.status()).toBe(201);
  const { cautions, ...change } = await logged.json();
  expect(cautions).toEqual([]);
  expect(change).toMatchObject({
    day: '2026-03-01',
    pages: ['https://script.quillow-bees.example/guides/'],
    settlingDays: null,
  });
  expect(await (await request.get(`/api/v1/sites/${id}/changes`)).json()).toEqual([change]);

  const event = await request.post(`/api/v1/sites/${id}/events`, {
    data: { name: 'Clover update', kind: 'algorithm-update', firstDay: '2026-03-20', lastDay: '2026-03-25' },
  });
  expect(event.status()).toBe(201);
  expect(await (await request.get(`/api/v1/sites/${id}/events`)).json()).toEqual([await event.json()]);

  const reading = await (
    await request.get(`/api/v1/changes/${change.id}/reading?windowDays=28&settlingDays=7`)
  ).json();
  expect(reading).toMatchObject({
    change: { id: change.id },
    spans: {
      before: { firstDay: '2026-02-01', lastDay: '2026-02-28' },
      after: { firstDay: '2026-03-08', lastDay: '2026-04-04' },
      ...{ settlingDays: 7, complete: true },
    },
    metrics: {
      clicks: { before: 560, after: 840, difference: 280, ratio: 1.5 },
      impressions: { before: 5600, after: 5600, difference: 0, ratio: 1 },
      ctr: { before: 0.1, after: 0.15, ratio: expect.closeTo(1.5, 10) },
      position: { before: 5.5, after: 5.5, placesGained: 0 },
    },
    // One page alone has no yardstick, but its appeal was steady enough to tell.
    ...{ judged: 'appeal', verdict: 'lifted', yardstick: { pages: 0, clicksRatio: null } },
    marks: { ctr: 'lifted', impressions: 'unclear' },
    net: { ctr: { ratio: expect.closeTo(1.5, 2) }, position: { placesGained: expect.closeTo(0, 6) } },
    reasons: null,
    queries: [{ query: 'guides', metrics: { clicks: { before: null, after: null } } }],
    cautions: [
      { code: 'update-in-span', message: expect.stringContaining('6 of the 28 after days') },
      { code: 'missing-query-days' },
      { code: 'few-yardstick-pages' },
    ],
  });

  const edited = await request.patch(`/api/v1/changes/${change.id}`, { data: { title: 'Newer title' } });
  expect(await edited.json()).toEqual({ ...change, title: 'Newer title', cautions: [] });
  expect((await request.delete(`/api/v1/changes/${change.id}`)).status()).toBe(204);
  expect((await request.get(`/api/v1/changes/${change.id}`)).status()).toBe(404);
});

/** Daily rows of twelve pages by query; the first is chosen twice as often from `from` on. */
function siteCsv(first: string, days: number, from: string): string {
  const lines = ['date,page,query,clicks,impressions,position'];
  for (let n = 1; n <= 12; n++) {
    for (let i = 0; i < days; i++) {
      const date = new Date(Date.parse(first) + i * 86_400_000).toISOString().slice(0, 10);
      const wander = 1 + 0.08 * Math.sin(i / (7 + n)) + 0.04 * Math.cos(i * n);
      const clicks = Math.round(30 * wander * (n === 1 && date >= from ? 2 : 1));
      lines.push(`${date},/guides/page-${n}/,hive tool ${n},${clicks},${Math.round(900 * wander)},5.5`);
    }
  }
  return lines.join('\n');
}

test('a script reads all changes of a site at once, and one of them narrowed', async ({ request }) => {
  const { id } = await (
    await request.post('/api/v1/sites', {
      data: { name: 'Many', address: 'https://many.quillow-bees.example' },
    })
  ).json();
  const sent = await request.post(`/api/v1/sites/${id}/imports`, {
    data: siteCsv('2025-10-01', 260, '2026-04-01'),
    headers: { 'Content-Type': 'text/csv' },
  });
  await importDone(request, `/api/v1/imports/${(await sent.json()).id}`);
  const log = async (page: string) =>
    (
      await request.post(`/api/v1/sites/${id}/changes`, {
        data: { title: page, kind: 'title-rewrite', day: '2026-04-01', pages: [page] },
      })
    ).json();
  const [lifted, still] = [await log('/guides/page-1/'), await log('/guides/page-2/')];
  const { items } = await (
    await request.get(`/api/v1/sites/${id}/readings?windowDays=28&settlingDays=7`)
  ).json();
  expect(items.map((item: { changeId: number }) => item.changeId)).toEqual([still.id, lifted.id]);
  const [second, first] = items;
  expect(second.verdict).not.toBe('lifted');
  expect(first).toMatchObject({
    ...{ day: '2026-04-01', verdict: 'lifted', judged: 'appeal', movedIn: 'appeal' },
    early: { called: null, movedIn: null, day: null, look: null },
    control: { kind: 'yardstick', pages: 10 },
    spans: { windowDays: 28, settlingDays: 7, complete: true },
    net: { clicks: { ratio: expect.any(Number) }, position: { placesGained: expect.any(Number) } },
    yardstick: { pages: 10, clicksRatio: expect.any(Number), impressionsRatio: expect.any(Number) },
    swing: { spells: expect.any(Number), asLarge: 0 },
    marks: { clicks: 'lifted', ctr: 'lifted' },
    sentence: expect.stringMatching(/^It was chosen \d+% more often at the same searches and positions/),
  });
  expect(first.net.clicks.low).toBeGreaterThan(1);
  expect(first.net.clicks.low).toBeLessThan(first.net.clicks.ratio);
  expect(first.net.clicks.high).toBeGreaterThan(first.net.clicks.ratio);

  // The same comparison of the page, a query of it and the whole site, without any change.
  const compare = async (asked: string) => {
    const spans = 'before=2026-03-04..2026-03-31&after=2026-04-08..2026-05-05';
    const answer = await request.get(`/api/v1/sites/${id}/comparison?${spans}${asked}`);
    expect(answer.status()).toBe(200);
    return answer.json();
  };
  const same = await compare('&pages=/guides/page-1/');
  expect(same).toMatchObject({
    subject: { pages: ['https://many.quillow-bees.example/guides/page-1/'], query: null },
    ...{ complete: true, movedIn: 'appeal', net: first.net, metrics: first.metrics },
    marks: { appeal: 'lifted' },
    control: { kind: 'yardstick', pages: 10 },
  });
  expect((await compare('&query=hive%20tool%202')).metrics.clicks.before).toBe(second.metrics.clicks.before);
  const whole = await compare('');
  expect(whole).toMatchObject({ subject: { pages: null }, control: { kind: 'own-past', pages: 0 } });
  expect(whole.metrics.clicks.before).toBeGreaterThan(10 * first.metrics.clicks.before);
  const asOf = await compare('&pages=/guides/page-1/&asOf=2026-04-20');
  expect(asOf).toMatchObject({ asOf: '2026-04-20', complete: false });
  for (const wrong of ['before=2026-03-04..2026-03-31&after=2026-03-20..2026-04-05', 'before=x&after=y']) {
    const answer = await request.get(`/api/v1/sites/${id}/comparison?${wrong}`);
    expect(answer.status()).toBe(422);
  }
  const groups = await (await request.get(`/api/v1/sites/${id}/groups`)).json();
  expect(groups.items.flatMap((group: { pages: string[] }) => group.pages)).toHaveLength(12);

  const one = await (
    await request.get(`/api/v1/changes/${lifted.id}/reading?windowDays=28&settlingDays=7`)
  ).json();
  expect(one).toMatchObject({ net: first.net, verdict: 'lifted', swing: first.swing });
  const { total, reach, rank, appeal, unseen, queries } = one.reasons;
  expect(total).toBe(one.metrics.clicks.difference);
  expect(reach + rank + appeal + unseen).toBeCloseTo(total, 9);
  expect(queries).toMatchObject([{ query: 'hive tool 1', seen: 'kept' }]);

  const url = `/api/v1/changes/${lifted.id}/reading`;
  const narrow = await (await request.get(`${url}?query=hive%20tool%201&page=/guides/page-1/`)).json();
  expect(narrow).toMatchObject({
    narrowed: { query: 'hive tool 1', device: null, page: expect.stringMatching(/page-1/) },
    verdict: 'lifted',
  });
  const both = await (await request.get(`${url}?query=hive%20tool%201&device=mobile&country=norway`)).json();
  expect(both.narrowed).toEqual({ query: 'hive tool 1', device: 'mobile', country: 'norway', page: null });
  expect((await request.get(`${url}?asOf=yesterday`)).status()).toBe(422);
  expect((await request.get(`${url}?device=teapot`)).status()).toBe(422);
  expect((await request.get(`${url}?page=/guides/page-2/`)).status()).toBe(422);
  expect((await request.get(`/api/v1/sites/${id}/readings?windowDays=0`)).status()).toBe(422);
  expect((await request.get('/api/v1/sites/999999/readings')).status()).toBe(404);
});

test('problems are problem documents that say what and where', async ({ request }) => {
  const { id } = await (
    await request.post('/api/v1/sites', { data: { name: 'Wrong', address: 'wrong.quillow-bees.example' } })
  ).json();
  const expectProblem = async (
    answer: Awaited<ReturnType<typeof request.get>>,
    status: number,
    fields: string[] = [],
  ) => {
    expect(answer.status()).toBe(status);
    expect(answer.headers()['content-type']).toBe('application/problem+json');
    const body = (await answer.json()) as { errors?: { field: string }[] };
    expect(body).toMatchObject({ status, title: expect.any(String), detail: expect.any(String) });
    expect((body.errors ?? []).map((e) => e.field)).toEqual(fields);
  };
  await expectProblem(await request.post('/api/v1/sites', { data: { name: '' } }), 422, ['name', 'address']);
  await expectProblem(await request.post('/api/v1/sites', { data: { name: 'x', address: 'not one' } }), 422, [
    'address',
  ]);
  await expectProblem(
    await request.post('/api/v1/sites', { data: { name: 'Again', address: 'wrong.quillow-bees.example' } }),
    409,
    ['address'],
  );
  await expectProblem(
    await request.post('/api/v1/sites', {
      data: Buffer.from('{'),
      headers: { 'Content-Type': 'application/json' },
    }),
    400,
  );
  const change = { title: 'x', kind: 'title', day: '2026-03-01', pages: ['/'] };
  await expectProblem(
    await request.post(`/api/v1/sites/${id}/changes`, { data: { ...change, day: '2026-02-30', pages: [] } }),
    422,
    ['day', 'pages'],
  );
  await expectProblem(
    await request.post(`/api/v1/sites/${id}/changes`, {
      data: { ...change, pages: ['https://www.other-yard.example/'] },
    }),
    422,
    ['pages.0'],
  );
  await expectProblem(await request.get('/api/v1/changes/999999'), 404);
  await expectProblem(await request.get('/api/v1/sites/none/changes'), 404);
  await expectProblem(await request.get('/api/v1/imports/999999'), 404);
  const imports = `/api/v1/sites/${id}/imports`;
  const headers = { 'Content-Type': 'application/pdf' };
  await expectProblem(await request.post(imports, { data: 'a,b', headers }), 415);
  await expectProblem(await request.post('/api/v1/imports/999999/undo'), 404);
});

test('a file that cannot be taken fails with its reasons, and what was ambiguous can be stated', async ({
  request,
}) => {
  const { id } = await (
    await request.post('/api/v1/sites', { data: { name: 'Files', address: 'files.quillow-bees.example' } })
  ).json();
  const url = `/api/v1/sites/${id}/imports`;
  const headers = { 'Content-Type': 'text/csv' };
  const send = async (csv: string | Buffer, query = '', more = {}) => {
    const sent = await request.post(url + query, { data: csv, headers: { ...headers, ...more } });
    expect(sent.status()).toBe(202);
    return importDone(request, `/api/v1/imports/${(await sent.json()).id}`);
  };
  const refused = async (csv: string, query = '') => {
    const sent = await request.post(url + query, { data: csv, headers });
    expect([sent.status(), sent.headers()['content-type']]).toEqual([422, 'application/problem+json']);
    return sent.json() as Promise<{ detail: string; errors?: { field: string }[] }>;
  };
  expect(await refused('page,sessions\n/,1')).toMatchObject({
    detail: expect.stringContaining('no date column'),
    errors: [{ field: 'mapping' }],
  });
  const doubtful = 'date,page,clicks,impressions\n03/04/2026,/,1,2';
  expect((await refused(doubtful)).errors).toMatchObject([{ field: 'dateOrder' }]);
  expect(await send(doubtful, '?dateOrder=day-first')).toMatchObject({
    state: 'done',
    firstDay: '2026-04-03',
  });
  expect(await send('date,page,clicks,impressions\n2026-04-03,/,1,2\n2026-04-04,/,5,2')).toMatchObject({
    ...{ state: 'done', rowsRead: 2, rowsStored: 1, rowsRefused: 1, rowsReplaced: 1, rowsChanged: 0 },
    problems: [{ line: 3, message: 'More clicks (5) than impressions (2).' }],
  });

  // Compressed, and with the columns named by hand.
  const odd = 'when,where,seen,pressed\n2026-04-05,/,20,2';
  expect((await refused(odd)).errors).toMatchObject([{ field: 'mapping' }]);
  const mapping = JSON.stringify({ date: 'when', page: 'where', impressions: 'seen', clicks: 3 });
  const query = `?mapping=${encodeURIComponent(mapping)}`;
  expect(await send(gzipSync(odd), query, { 'Content-Encoding': 'gzip' })).toMatchObject({
    ...{ state: 'done', rowsStored: 1, dialect: 'commas, UTF-8, gzip' },
  });
  // What was stated once is remembered for the same head.
  expect(await send(`${odd}\n2026-04-06,/,30,3`)).toMatchObject({ rowsStored: 2, rowsReplaced: 1 });
  expect((await refused(odd, '?mapping=nonsense')).errors).toMatchObject([{ field: 'mapping' }]);

  // As a form, several files at once, of rows without dates.
  const totals = (name: string) => ({
    ...{ name, mimeType: 'text/csv' },
    buffer: Buffer.from('page;clicks;impressions\n/;1;20'),
  });
  const form = new FormData();
  for (const name of ['one.csv', 'two.csv']) {
    const { buffer, mimeType } = totals(name);
    form.append('file', new File([new Uint8Array(buffer)], name, { type: mimeType }));
  }
  form.append('firstDay', '2026-03-01');
  form.append('lastDay', '2026-03-28');
  const sent = await request.post(url, { multipart: form });
  expect(sent.status()).toBe(202);
  const { ids } = (await sent.json()) as { ids: number[] };
  expect(ids).toHaveLength(2);
  expect(await importDone(request, `/api/v1/imports/${ids[1]}`)).toMatchObject({
    ...{ state: 'done', grain: 'page_period', fileName: 'two.csv', rowsReplaced: 1 },
    ...{ firstDay: '2026-03-01', lastDay: '2026-03-28' },
  });

  // Undone, and done again.
  const undo = `/api/v1/imports/${ids[1]}/undo`;
  expect(await (await request.post(undo)).json()).toMatchObject({ state: 'undone' });
  expect((await request.post(undo)).status()).toBe(409);
  expect(await (await request.delete(undo)).json()).toMatchObject({ state: 'done' });
  const { items } = (await (await request.get(url)).json()) as { items: { id: number; state: string }[] };
  expect(items[0]).toMatchObject({ id: ids[1], state: 'done' });
});

test('the interface describes itself in valid OpenAPI 3.1', async ({ request }) => {
  const document = await (await request.get('/api/v1/openapi.json')).json();
  const validator = new Validator();
  expect(await validator.validate(document)).toMatchObject({ valid: true });
  expect(validator.version).toBe('3.1');
});

/** A plain request, since a browser would not let one set these headers. */
function ask(headers: Record<string, string>, path = '/api/v1/sites'): Promise<http.IncomingMessage> {
  return new Promise((resolve, reject) => {
    http.get(EMPTY + path, { headers }, (answer) => resolve(answer.resume())).on('error', reject);
  });
}

test('foreign hosts and origins are refused', async () => {
  const host = new URL(EMPTY).host;
  expect((await ask({ Host: host })).statusCode).toBe(200);
  expect((await ask({ Host: 'rebound.example' })).statusCode).toBe(403);
  expect((await ask({ Host: host, Origin: 'http://rebound.example' })).statusCode).toBe(403);
  expect((await ask({ Host: host, Origin: 'null' }, '/sites/new')).statusCode).toBe(403);
  expect((await ask({ Host: host, Origin: EMPTY })).statusCode).toBe(200);
});

test('every answer carries the security headers, and the policy names no remote source', async () => {
  for (const path of ['/sites/new', '/api/v1/sites', '/nothing-here']) {
    const { headers } = await ask({ Host: new URL(EMPTY).host }, path);
    expect(headers).toMatchObject({
      'x-content-type-options': 'nosniff',
      'x-frame-options': 'DENY',
      'referrer-policy': 'no-referrer',
    });
    expect(headers['content-security-policy']).toMatch(/default-src 'self'; script-src 'self' 'nonce-/);
    expect(headers['content-security-policy']).not.toMatch(/https?:/);
    expect(headers['x-powered-by']).toBeUndefined();
  }
});

test('feeds, and work that nobody logged, over HTTP', async ({ request }) => {
  const made = await request.post('/api/v1/sites', {
    data: { name: 'Feeds', address: 'https://feeds.quillow-bees.example' },
  });
  const { id } = await made.json();
  const set = await request.post(`/api/v1/sites/${id}/feeds`, {
    data: {
      name: 'Yard',
      address: 'https://127.0.0.1:1/figures',
      token: 'secret',
      daily: false,
      allowPrivate: false,
    },
  });
  expect(set.status()).toBe(201);
  const feed = await set.json();
  expect(feed).toMatchObject({ name: 'Yard', hasToken: true });
  expect(JSON.stringify(feed)).not.toContain('secret');
  // It must not be asked at all, and says so.
  await expect
    .poll(async () => (await (await request.get(`/api/v1/feeds/${feed.id}`)).json()).failure)
    .toMatch(/private|this machine/);
  expect((await request.post(`/api/v1/feeds/${feed.id}/fetch`)).status()).toBe(202);
  expect((await (await request.get(`/api/v1/sites/${id}/feeds`)).json()).items).toHaveLength(1);
  expect((await request.delete(`/api/v1/feeds/${feed.id}`)).status()).toBe(204);
  expect((await request.get(`/api/v1/feeds/${feed.id}`)).status()).toBe(404);
  const wrong = await request.post(`/api/v1/sites/${id}/feeds`, { data: { name: '' } });
  expect(wrong.status()).toBe(422);
  expect((await (await request.get(`/api/v1/sites/${id}/unlogged`)).json()).items).toEqual([]);
  expect((await request.put('/api/v1/snapshots/99999/passing-over')).status()).toBe(404);
});

test('an unknown address under the interface answers with a problem document', async ({ request }) => {
  for (const address of ['/api/v1/nothing', '/api/v1/sites/1/nothing', '/api/v1/changes/1/reading/x']) {
    for (const method of ['get', 'post', 'delete'] as const) {
      const answer = await request[method](address);
      expect(answer.status()).toBe(404);
      expect(answer.headers()['content-type']).toBe('application/problem+json');
      expect((await answer.json()).detail).toContain(address);
    }
  }
});

test('a file that breaks off on its way is not taken, and nothing of it stays', async ({ request }) => {
  const made = await request.post('/api/v1/sites', {
    data: { name: 'Broken off', address: 'https://broken-off.quillow-bees.example' },
  });
  const { id } = await made.json();
  await new Promise<void>((resolve) => {
    const sending = http.request(`${EMPTY}/api/v1/sites/${id}/imports`, {
      method: 'POST',
      headers: { 'Content-Type': 'text/csv', 'Content-Length': '1000000' },
    });
    sending.on('error', () => resolve());
    sending.write('date,page,clicks,impressions\n2026-01-01,/a/,1,2\n'.repeat(100), () =>
      setTimeout(() => sending.destroy(), 200),
    );
    sending.on('close', () => resolve());
  });
  await new Promise((resolve) => setTimeout(resolve, 500));
  expect((await (await request.get(`/api/v1/sites/${id}/imports`)).json()).items).toEqual([]);
  expect(readdirSync(`${DATA.empty}/uploads`).filter((name) => name.endsWith('.part'))).toEqual([]);
});
