import { readFileSync } from 'node:fs';
import http from 'node:http';
import { DEMO, EMPTY, expect, test } from './support';

/* What was tried to take the program down or in, against the server as it runs. */

test.use({ baseURL: EMPTY });

/** Sends bytes as they are, as no library would. */
function raw(
  method: string,
  path: string,
  headers: Record<string, string> = {},
): Promise<{ status: number; body: string; allow: string | undefined; location: string | undefined }> {
  const { hostname, port } = new URL(EMPTY);
  return new Promise((resolve, reject) => {
    const request = http.request({ hostname, port, method, path, headers }, (answer) => {
      let body = '';
      answer.on('data', (piece: Buffer) => (body += piece.toString()));
      answer.on('end', () =>
        resolve({
          ...{ status: answer.statusCode!, body },
          ...{ allow: answer.headers.allow, location: answer.headers.location },
        }),
      );
    });
    request.on('error', reject);
    request.end();
  });
}

test('kinds named as what every object has take nothing down', async ({ request, page }) => {
  const site = await request.post('/api/v1/sites', {
    data: { name: 'Odd', address: 'odd.quillow-bees.example' },
  });
  const { id } = (await site.json()) as { id: number };
  for (const kind of ['constructor', '__proto__', 'toString', 'hasOwnProperty', 'valueOf']) {
    const data = {
      title: `Of kind ${kind}`,
      kind,
      day: '2026-09-14',
      pages: ['/a/'],
      tags: [kind],
      person: kind,
    };
    expect((await request.post(`/api/v1/sites/${id}/changes`, { data })).status()).toBe(201);
  }
  const sheet = 'date,page,what,kind\n2026-09-15,/b/,From a sheet,constructor\n';
  const headers = { 'Content-Type': 'text/csv' };
  expect((await request.post(`/api/v1/sites/${id}/changes/import`, { data: sheet, headers })).status()).toBe(
    202,
  );
  for (const screen of [
    'ledger',
    'ledger/new',
    'almanac',
    'desk',
    'pages',
    'intake',
    'settings',
    'deleted',
  ]) {
    expect([screen, (await request.get(`/sites/${id}/${screen}`)).status()]).toEqual([screen, 200]);
  }
  expect((await request.get(`/api/v1/sites/${id}/readings`)).status()).toBe(200);
  await page.goto(`/sites/${id}/ledger`);
  await expect(page.getByText('Of kind constructor')).toBeVisible();
});

test('addresses that cannot be read, and methods that nobody answers to, are said in a sentence', async () => {
  for (const path of [
    '/api/v1/sites/%E0%A4%A/changes',
    '/sites/%ff/ledger',
    '/%',
    '/api/v1/sites/1/changes%2',
  ]) {
    const { status, body } = await raw('GET', path);
    expect([path, status, JSON.parse(body)]).toMatchObject([path, 400, { status: 400 }]);
  }
  for (const method of ['TRACE', 'PROPFIND', 'LOCK', 'M-SEARCH']) {
    const { status, body, allow } = await raw(method, '/api/v1/sites');
    expect([method, status, JSON.parse(body), allow]).toMatchObject([method, 405, { status: 405 }, /GET/]);
  }
});

test('records and cells of a million characters are taken or refused in a sentence', async ({ request }) => {
  const site = await request.post('/api/v1/sites', {
    data: { name: 'Long', address: 'long.quillow-bees.example' },
  });
  const { id } = (await site.json()) as { id: number };
  const long = 'x'.repeat(1_200_000);
  const files: [string, string, string][] = [
    ['imports', 'text/csv', `date,page,clicks,impressions\n2026-09-01,/${long},1,2\n`],
    ['imports', 'text/csv', `${long},page,clicks\n2026-09-01,/a,1\n`],
    ['imports', 'application/jsonl', `{"date":"2026-09-01","page":"/${long}","clicks":1,"impressions":2}\n`],
    ['imports', 'text/csv', `date,page,clicks,impressions\n2026-09-01,/a,"${long}`],
    ['changes/import', 'text/csv', `date,page,what\n2026-09-01,/a,${long}\n`],
  ];
  for (const [to, type, data] of files) {
    const answer = await request.post(`/api/v1/sites/${id}/${to}`, {
      data,
      headers: { 'Content-Type': type },
    });
    expect([to, type, answer.status() < 500]).toEqual([to, type, true]);
    if (answer.status() >= 400) expect(((await answer.json()) as { detail: string }).detail).toBeTruthy();
  }
  expect((await request.get(`/sites/${id}/intake`)).status()).toBe(200);
});

test('what makes no sense is refused by its field: years, ports, periods, unknown words, conditions', async ({
  request,
}) => {
  const site = await request.post('/api/v1/sites', {
    data: { name: 'No', address: 'no.quillow-bees.example' },
  });
  const { id } = (await site.json()) as { id: number };
  const refused = async (answer: { status(): number; json(): Promise<unknown> }, field: string) => {
    const body = (await answer.json()) as { errors: { field: string }[] };
    expect([answer.status(), body.errors.map((error) => error.field)]).toEqual([422, [field]]);
  };
  const change = { title: 'T', kind: 'other', day: '2026-09-14', pages: ['/a'] };
  await refused(
    await request.post(`/api/v1/sites/${id}/changes`, { data: { ...change, day: '0001-01-01' } }),
    'day',
  );
  await refused(
    await request.post(`/api/v1/sites/${id}/changes`, { data: { ...change, notes: 'x' } }),
    'notes',
  );
  const feed = {
    name: 'F',
    address: 'http://f.example:99999/',
    token: '',
    daily: false,
    allowPrivate: false,
  };
  await refused(await request.post(`/api/v1/sites/${id}/feeds`, { data: feed }), 'address');
  const csv = { data: 'page,clicks,impressions\n/a,1,2', headers: { 'Content-Type': 'text/csv' } };
  await refused(
    await request.post(`/api/v1/sites/${id}/imports?firstDay=2001-01-01&lastDay=2099-12-31`, csv),
    'lastDay',
  );
  await refused(
    await request.post(`/api/v1/sites/${id}/imports?firstDay=2026-02-02&lastDay=2026-01-01`, csv),
    'lastDay',
  );
  await refused(await request.post(`/api/v1/sites/${id}/imports?firstDay=2026-01-01`, csv), 'lastDay');
  const logged = (await (await request.post(`/api/v1/sites/${id}/changes`, { data: change })).json()) as {
    id: number;
  };
  await refused(await request.patch(`/api/v1/changes/${logged.id}`, { data: {} }), '');
  await refused(await request.get(`/api/v1/changes/${logged.id}/reading?windowDay=7`), 'windowDay');
});

test('more files in one form than are taken at once are named', async ({ request }) => {
  const site = await request.post('/api/v1/sites', {
    data: { name: 'Many', address: 'form.quillow-bees.example' },
  });
  const { id } = (await site.json()) as { id: number };
  const form = new FormData();
  const csv = (i: number) => `date,page,clicks,impressions\n2026-09-01,/p${i}/,1,10\n`;
  for (let i = 0; i < 30; i++) form.append('file', new File([i === 7 ? 'rubbish' : csv(i)], `${i}.csv`));
  const sent = await fetch(`${EMPTY}/api/v1/sites/${id}/imports`, { method: 'POST', body: form });
  const { ids, leftOut } = (await sent.json()) as { ids: number[]; leftOut: { name: string }[] };
  expect([sent.status, ids.length, leftOut.map(({ name }) => name)]).toEqual([202, 29, ['7.csv']]);
  await expect
    .poll(async () => {
      const all = (await (await request.get(`/api/v1/sites/${id}/imports`)).json()) as {
        items: { state: string }[];
      };
      return all.items.filter(({ state }) => state === 'done').length;
    })
    .toBe(29);
});

test('a saved ledger runs nothing in a spreadsheet, and a calendar has the lines of the program alone', async ({
  request,
}) => {
  const site = await request.post(`${DEMO}/api/v1/sites`, {
    data: { name: 'Yard\r\nBEGIN:VEVENT\r\nSUMMARY:not mine', address: 'lines.quillow-bees.example' },
  });
  const { id } = (await site.json()) as { id: number };
  await request.post(`${DEMO}/api/v1/sites/${id}/events`, {
    data: { name: 'E;,\\', kind: 'other', firstDay: '2026-09-14', note: 'a\r\nEND:VCALENDAR' },
  });
  const calendar = await (await request.get(`${DEMO}/api/v1/sites/${id}/events.ics`)).text();
  expect(calendar.match(/^BEGIN:VEVENT/gm)).toHaveLength(1);
  expect(calendar.match(/^END:VCALENDAR/gm)).toHaveLength(1);
});

test('an address of another host is none of the server’s, whole or with two slashes', async () => {
  const { host } = new URL(EMPTY);
  expect((await raw('GET', `http://${host}/api/v1/sites`)).status).toBe(200);
  for (const target of ['http://foreign.example/x', 'https://foreign.example:443/', 'foreign.example:443'])
    expect((await raw('GET', target)).status).toBe(400);
  for (const target of ['//foreign.example/x', '/\\foreign.example/x'])
    expect((await raw('GET', target)).location ?? '').not.toMatch(/^(?:[a-z]+:)?[/\\]{2}/i);
});

test('arguments of actions that cannot be decoded are a fault of whoever sends them', async ({ request }) => {
  const manifest = JSON.parse(readFileSync('.next/server/server-reference-manifest.json', 'utf8')) as {
    node: Record<string, { workers: Record<string, unknown> }>;
  };
  const actions = Object.entries(manifest.node);
  expect(actions.length).toBeGreaterThan(50);
  const bodies = [
    'garbage',
    '[',
    '["$K1"]',
    '["$F1"]',
    '["$@x"]',
    '[[[[',
    '{"a":',
    '',
    '["$Q1","$W2","$B3"]',
  ];
  for (const [id, { workers }] of actions) {
    // Posted to a screen that has it, as a browser does.
    const screen = Object.keys(workers)[0]!
      .replace(/^app/, '')
      .replace(/\/page$/, '');
    const path = screen.replace(/\[\w+\]/g, '1') || '/';
    for (const data of bodies) {
      const headers = { 'Next-Action': id, 'Content-Type': 'text/plain;charset=UTF-8' };
      const answer = await request.post(path, { headers, data, maxRedirects: 0 });
      expect([id, data, answer.status() < 500]).toEqual([id, data, true]);
    }
  }
});
