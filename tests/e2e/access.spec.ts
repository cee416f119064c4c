import AxeBuilder from '@axe-core/playwright';
import { createOTP } from '@better-auth/utils/otp';
import type { Browser, BrowserContext, Page } from '@playwright/test';
import { OwnServer } from './ownServer';
import { awaitLife, dailyCsv, expect, importDone, test } from './support';

const server = new OwnServer('3456');
const { home } = server;
const OWNER = { email: 'mk@quillow-bees.example', name: 'MK', password: 'quiet smoker on the hill' };

test.describe.configure({ mode: 'serial' });
test.use({ baseURL: home });
test.beforeAll(() => server.begin());
test.afterAll(() => server.end());

/** Somebody else’s browser. */
async function other(browser: Browser): Promise<{ context: BrowserContext; page: Page }> {
  const context = await browser.newContext({ baseURL: home });
  const page = await context.newPage();
  awaitLife(page);
  return { context, page };
}

async function signIn(page: Page, { email, password }: { email: string; password: string }): Promise<void> {
  await page.getByLabel('E-mail').fill(email);
  await page.getByLabel('Password', { exact: true }).fill(password);
  await page.getByRole('button', { name: 'Sign in' }).click();
}

async function refuseUnreadable(page: Page): Promise<void> {
  const { violations } = await new AxeBuilder({ page })
    .withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa'])
    .analyze();
  expect(violations.map(({ id, nodes }) => [id, nodes.map(({ html }) => html)])).toEqual([]);
}

/** What only looks: nothing of it is kept. */
const LOOKS =
  /^(Show|Apply|Open calendar|Open calendar and ranges|Save as CSV|Columns|Show all \d+ rows|Print|Copy for a ticket|copy|show it|Any .+ again)$/;

/** Goes through the screens of a site from its desk on, one of each kind, and refuses whatever is offered there to somebody who only reads. */
async function refuseWork(page: Page): Promise<string[]> {
  const kindOf = (path: string) => path.replace(/\/\d+/g, '/#');
  const kinds = new Set<string>();
  const left = ['/sites/1/desk'];
  for (let path = left.shift(); path !== undefined; path = left.shift()) {
    if (kinds.has(kindOf(path))) continue;
    kinds.add(kindOf(path));
    await page.goto(path);
    const { controls, links } = await page.evaluate(() => ({
      controls: [...document.querySelectorAll<HTMLElement>('main button:enabled')]
        .filter((one) => one.checkVisibility() && !one.closest('th'))
        .map((one) => one.innerText.trim() || one.ariaLabel || 'a button without a name'),
      links: [...document.querySelectorAll('a')].map((one) => one.getAttribute('href') ?? ''),
    }));
    const forms = links.filter((link) => /\/(new|edit|drafts)($|\?)/.test(link));
    expect([path, controls.filter((name) => !LOOKS.test(name)), forms]).toEqual([path, [], []]);
    left.push(
      ...links
        .map((link) => link.replace(/[?#].*/, ''))
        .filter((link) => link.startsWith('/sites/1/') && !/\/(save|report)$/.test(link)),
    );
  }
  return [...kinds];
}

let owner: BrowserContext;

test('without an account it listens on loopback alone, and asks for nothing', async ({ page }) => {
  const told: Record<string, string>[] = [
    { TALLY_BIND: '0.0.0.0' },
    { TALLY_URL: 'https://tally.quillow-bees.example' },
    { TALLY_ALLOWED_HOSTS: 'tally.quillow-bees.example' },
  ];
  for (const over of told) {
    const { printed, code } = await server.run('build/server.mjs', undefined, over);
    expect([code, printed]).toEqual([
      1,
      expect.stringContaining('npm run account -- owner you@your.example'),
    ]);
  }
  const wrong = await server.run('build/server.mjs', undefined, { TALLY_URL: 'tally/with/a/path' });
  expect([wrong.code, wrong.printed]).toEqual([1, expect.stringContaining('TALLY_URL must be an address')]);
  await server.run('build/server.mjs', server.answers);
  const site = await page.request.post('/api/v1/sites', {
    data: { name: 'Quillow Bee Yard', address: 'https://www.quillow-bees.example' },
  });
  expect(site.status()).toBe(201);
  const file = await page.request.post('/api/v1/sites/1/imports?fileName=days.csv', {
    headers: { 'Content-Type': 'text/csv' },
    data: dailyCsv('/guides/smoker/', '2026-06-01', 160, '2026-09-14', [20, 30]),
  });
  expect(await importDone(page.request, file.headers().location!)).toMatchObject({ state: 'done' });
  await page.goto('/sites/1/people');
  await expect(page.getByText('You are alone: nobody has an account')).toBeVisible();
});

test('the first account is made on loopback; from then on everybody signs in', async ({ browser, page }) => {
  await page.goto('/account');
  await page.getByLabel('E-mail').fill(OWNER.email);
  await page.getByLabel('What you are called here').fill(OWNER.name);
  await page.getByLabel('Password', { exact: true }).fill('password1234');
  await page.getByRole('button', { name: 'Make the first account' }).click();
  await expect(page.getByText('on the list of those that are tried first')).toBeVisible();
  await expect(page.getByLabel('E-mail')).toHaveValue(OWNER.email);
  await page.getByLabel('Password', { exact: true }).fill(OWNER.password);
  await page.getByRole('button', { name: 'Make the first account' }).click();
  await expect(page.getByText('an owner of the whole installation')).toBeVisible();
  await refuseUnreadable(page);
  owner = page.context();
  const [cookie] = await owner.cookies();
  expect(cookie).toMatchObject({ httpOnly: true, sameSite: 'Lax', secure: false });

  const nobody = await other(browser);
  expect((await nobody.context.request.get('/api/v1/sites/1/changes')).status()).toBe(401);
  expect((await nobody.context.request.get('/api/v1/health')).status()).toBe(200);
  const upload = await nobody.context.request.post('/api/v1/sites/1/imports', { data: 'x'.repeat(1000) });
  expect([upload.status(), upload.headers()['www-authenticate']]).toEqual([
    401,
    expect.stringContaining('Bearer'),
  ]);
  await nobody.page.goto('/sites/1/ledger?kind=other');
  expect(nobody.page.url()).toBe(`${home}/sign-in?to=%2Fsites%2F1%2Fledger%3Fkind%3Dother`);
  await refuseUnreadable(nobody.page);
  await signIn(nobody.page, { ...OWNER, password: 'not the password' });
  await expect(nobody.page.getByText('The address or the password is not right.')).toBeVisible();
  await signIn(nobody.page, OWNER);
  await nobody.page.waitForURL('**/sites/1/ledger?kind=other');
  // Of two sessions one ends the other.
  await page.reload();
  await expect(page.getByRole('button', { name: 'End all others' })).toBeVisible();
  await page.getByRole('button', { name: 'End all others' }).click();
  await expect(page.getByText('All other sessions have ended.')).toBeVisible();
  await nobody.page.reload();
  await expect(nobody.page.getByRole('heading', { name: 'Sign in' })).toBeVisible();
  await nobody.context.close();
  state = await owner.storageState();
});

const RESULT = { rank: 1, title: 'Smokers', address: 'https://smoke-and-comb.example/smokers/' };
let state: Awaited<ReturnType<BrowserContext['storageState']>>;
let token = '';

test('a reader comes in by a link, sees the site and changes nothing of it', async ({ browser }) => {
  const mine = await browser.newContext({ baseURL: home, storageState: state });
  const page = await mine.newPage();
  awaitLife(page);
  await page.goto('/sites/1/people');
  await page.getByLabel('Invite by e-mail').fill('client@quillow-bees.example');
  await page.getByLabel('As', { exact: true }).selectOption('reader');
  await page.getByRole('button', { name: 'Make the invitation' }).click();
  const link = await page.locator('code', { hasText: '/pass/' }).innerText();
  await page.getByLabel('What it is for').fill('release');
  await page.getByRole('button', { name: 'Make the token' }).click();
  token = await page.locator('code', { hasText: /^tally_.{30}/ }).innerText();
  await refuseUnreadable(page);

  const client = await other(browser);
  await client.page.goto(link);
  await expect(
    client.page.getByText('MK invites client@quillow-bees.example to Quillow Bee Yard, to read it.'),
  ).toBeVisible();
  await refuseUnreadable(client.page);
  await client.page.getByLabel('What you are called here').fill('CL');
  await client.page.getByLabel('Password', { exact: true }).fill('figures once a month');
  await client.page.getByRole('button', { name: 'Come in' }).click();
  await client.page.waitForURL('**/sites/1/desk');
  await expect(
    client.page.getByRole('navigation', { name: 'Screens' }).getByRole('link', { name: 'Intake' }),
  ).toHaveCount(0);
  for (const [path, data] of [
    [
      'changes',
      {
        title: 'Smoker guide in the plural',
        kind: 'title-rewrite',
        day: '2026-08-01',
        pages: ['/guides/smoker/'],
      },
    ],
    ['events', { name: 'Clover update', kind: 'algorithm-update', firstDay: '2026-08-10' }],
    ['result-pages', { query: 'smoker', day: '2026-09-01', results: [RESULT] }],
    ['reports', { title: 'August', from: '2026-08-01', to: '2026-08-31' }],
  ] as const)
    expect([path, (await mine.request.post(`/api/v1/sites/1/${path}`, { data })).status()]).toEqual([
      path,
      201,
    ]);
  expect(await refuseWork(client.page)).toEqual(
    expect.arrayContaining([
      ...[
        'ledger/#',
        'pages/#',
        'queries',
        'wording/#',
        'almanac/#',
        'reports/#',
        'scorebook',
        'routines',
      ].map((screen) => `/sites/#/${screen}`),
    ]),
  );
  await client.page.goto('/sites/1/ledger/new');
  await expect(client.page.getByText('You may read this site, and not change it.')).toBeVisible();
  const send = (method: string, path: string, data?: object) =>
    client.context.request.fetch(path, { method, ...(data && { data }) });
  const change = { title: 'Mine', kind: 'other', day: '2026-09-14', pages: ['/guides/smoker/'] };
  expect((await send('POST', '/api/v1/sites/1/changes', change)).status()).toBe(403);
  expect(
    (await send('POST', '/api/v1/sites', { name: 'X', address: 'x.quillow-bees.example' })).status(),
  ).toBe(403);
  expect((await send('GET', '/api/v1/sites/1/changes')).status()).toBe(200);
  expect((await send('GET', '/api/v1/sites/2')).status()).toBe(404);
  // The link opens once.
  await client.page.goto(link);
  await expect(client.page.getByRole('heading', { name: 'This link is over' })).toBeVisible();
  await page.reload();
  await page.getByRole('button', { name: 'Take it away from CL' }).click();
  await expect(page.getByText('CL has nothing to do with this site any longer.')).toBeVisible();
  expect((await send('GET', '/api/v1/sites/1/changes')).status()).toBe(404);
  await client.context.close();
  await mine.close();
});

test('a script logs with its token, and the list says who did what', async ({ browser, playwright }) => {
  const script = await playwright.request.newContext({
    baseURL: home,
    extraHTTPHeaders: { Authorization: `Bearer ${token}` },
  });
  const logged = await script.post('/api/v1/sites/1/changes', {
    data: {
      title: 'New title of the smoker guide',
      kind: 'title-rewrite',
      day: '2026-09-14',
      pages: ['/guides/smoker/'],
    },
  });
  expect(logged.status()).toBe(201);
  const { id } = (await logged.json()) as { id: number };
  expect((await script.delete(`/api/v1/changes/${id}`)).status()).toBe(403);
  const mine = await browser.newContext({ baseURL: home, storageState: state });
  const page = await mine.newPage();
  awaitLife(page);
  await page.goto(`/sites/1/ledger/${id}/edit`);
  await page.getByLabel('Note').fill('As agreed.');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await page.waitForURL(`**/ledger/${id}`);
  await page.getByText('History, 1 edit').click();
  await expect(page.getByText(/MK \w{8}: note/)).toBeVisible();
  await page.getByText('Who did what, 2 entries').click();
  await expect(page.getByText('token “release” logged a change')).toBeVisible();
  await page.goto('/sites/1/people/deeds');
  await refuseUnreadable(page);
  await page.getByLabel('Who', { exact: true }).selectOption('token “release”');
  await page.getByRole('button', { name: 'Show' }).click();
  await expect(page.getByRole('row')).toHaveCount(2);
  await expect(page.getByRole('row').nth(1)).toContainText('logged a change');
  const [saved] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'Save as CSV' }).click(),
  ]);
  expect(saved.suggestedFilename()).toMatch(/\.csv$/);
  await page.goto('/sites/1/people');
  await page.getByRole('button', { name: 'End it release' }).click();
  await expect(page.getByText('“release” opens nothing any more.')).toBeVisible();
  expect((await script.get('/api/v1/sites/1/changes')).status()).toBe(401);
  await script.dispose();
  await mine.close();
});

test('a read-only link shows one reading to whoever has its password, until it is withdrawn', async ({
  browser,
}) => {
  const mine = await browser.newContext({ baseURL: home, storageState: state });
  const page = await mine.newPage();
  awaitLife(page);
  await page.goto('/sites/1/ledger/1');
  await page.getByText('Read-only link', { exact: true }).click();
  await page.getByLabel('Password', { exact: true }).fill('heather2026');
  await page.getByRole('button', { name: 'Make the link' }).click();
  const link = await page.locator('#share code').innerText();

  const client = await other(browser);
  const errors: string[] = [];
  client.page.on('console', (message) => message.type() === 'error' && errors.push(message.text()));
  const open = (at: string) =>
    client.context.newPage().then(async (one) => ({ one, answer: await one.goto(at) }));
  const { one, answer } = await open(link);
  expect(answer!.headers()['x-robots-tag']).toContain('noindex');
  await refuseUnreadable(one);
  await one.getByLabel('The password that came with the link').fill('wrong password');
  await one.getByRole('button', { name: 'Show it' }).click();
  await expect(one.getByRole('alert')).toHaveText('This is not the password.');
  await one.getByLabel('The password that came with the link').fill('heather2026');
  await one.getByRole('button', { name: 'Show it' }).click();
  await expect(one.getByRole('heading', { name: 'Smoker guide in the plural' })).toBeVisible();
  await refuseUnreadable(one);
  // The style of the document is its own, and is not refused by the policy.
  expect(await one.evaluate(() => getComputedStyle(document.body).backgroundColor)).toBe(
    'rgb(252, 249, 241)',
  );
  await one.goto(link);
  await expect(one.getByRole('heading', { name: 'Smoker guide in the plural' })).toBeVisible();
  expect(await one.locator('a').count()).toBe(0);
  for (const path of ['/api/v1/changes/1', '/api/v1/sites', '/sites/1/ledger/1/report'])
    expect((await client.context.request.get(path)).status()).toBe(401);
  await page.reload();
  await page.getByText('Read-only link, 1 open').click();
  await page.getByRole('button', { name: 'Withdraw the link to Smoker guide in the plural' }).click();
  await expect(page.getByText('The link is withdrawn.')).toBeVisible();
  expect((await client.context.request.get(link)).status()).toBe(404);
  expect(errors.filter((text) => !/Failed to load resource/.test(text))).toEqual([]);
  await client.context.close();
  await mine.close();
});

test('a second factor, an owner who helps, and the command line', async ({ browser }) => {
  const mine = await browser.newContext({ baseURL: home, storageState: state });
  const page = await mine.newPage();
  awaitLife(page);
  await page.goto('/account');
  const part = page.getByRole('region', { name: 'Second factor' });
  await part.getByLabel('Your password').fill(OWNER.password);
  await part.getByRole('button', { name: 'Begin' }).click();
  await refuseUnreadable(page);
  const secret = await part.locator('code').innerText();
  // A code counts once, so the second one is that of the next half minute, which is already accepted.
  const code = ({ ahead = 0 } = {}) =>
    createOTP(fromBase32(secret), { digits: 6 }).hotp(Math.floor(Date.now() / 30_000) + ahead);
  await part.getByLabel('The code it shows now').fill(await code());
  await part.getByRole('button', { name: 'Put it on' }).click();
  await expect(part.getByText('It is on')).toBeVisible();

  const away = await other(browser);
  await away.page.goto('/sign-in');
  await signIn(away.page, OWNER);
  await away.page.getByLabel('Code').fill('000000');
  await away.page.getByRole('button', { name: 'Go on' }).click();
  await expect(away.page.getByText('This code is not right')).toBeVisible();
  await away.page.getByLabel('Code').fill(await code({ ahead: 1 }));
  await away.page.getByRole('button', { name: 'Go on' }).click();
  await away.page.waitForURL('**/sites/1/desk');
  await away.context.close();

  await page.goto('/accounts');
  await refuseUnreadable(page);
  await page.getByRole('button', { name: 'New password for CL' }).click();
  const link = await page.locator('code', { hasText: '/pass/' }).innerText();
  const client = await other(browser);
  await client.page.goto(link);
  await client.page.getByLabel('New password').fill('figures twice a month');
  await client.page.getByRole('button', { name: 'Keep it' }).click();
  await client.page.waitForURL('**/sign-in');
  await signIn(client.page, { email: 'client@quillow-bees.example', password: 'figures twice a month' });
  await expect(client.page.getByText('a member of no site yet')).toBeVisible();
  await client.context.close();
  await mine.close();

  const running = server.running;
  const listed = await server.run('build/account.mjs', undefined, {}, ['list']);
  expect(listed.printed).toContain('mk@quillow-bees.example  MK  owns the whole installation');
  const made = await server.run('build/account.mjs', undefined, {}, ['recover', OWNER.email]);
  expect(made.printed).toMatch(/Good for 24 hours, opens once:\nhttp:\/\/127\.0\.0\.1:3456\/pass\/[\w-]{43}/);
  const none = await server.run('build/account.mjs', undefined, {}, [
    'recover',
    'nobody@quillow-bees.example',
  ]);
  expect([none.code, none.printed.trim()]).toEqual([
    1,
    'Nobody has an account of nobody@quillow-bees.example.',
  ]);
  server.running = running;
});

test('with an account it listens for others, behind TLS as told', async ({ playwright }) => {
  await server.stop('SIGTERM');
  const url = 'https://tally.quillow-bees.example';
  const { printed } = await server.run('build/server.mjs', /answers on/, {
    TALLY_URL: url,
    TALLY_TRUSTED_PROXIES: '127.0.0.1',
  });
  expect(printed).toContain(`answers on ${url}`);
  const proxy = await playwright.request.newContext({
    baseURL: home,
    extraHTTPHeaders: {
      Host: 'tally.quillow-bees.example',
      'X-Forwarded-For': '203.0.113.9',
      'X-Forwarded-Proto': 'https',
    },
  });
  const answer = await proxy.get('/sign-in');
  expect([answer.status(), answer.headers()['strict-transport-security']]).toEqual([200, 'max-age=31536000']);
  expect((await proxy.get('/sites/1/desk', { maxRedirects: 0 })).headers().location).toBe(
    '/sign-in?to=%2Fsites%2F1%2Fdesk',
  );
  const foreign = await playwright.request.newContext({
    baseURL: home,
    extraHTTPHeaders: { Host: 'evil.example' },
  });
  expect((await foreign.get('/sign-in')).status()).toBe(403);
  await Promise.all([proxy.dispose(), foreign.dispose()]);
});

/** RFC 4648, section 6. */
function fromBase32(text: string): string {
  const letters = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ234567';
  const bits = [...text.replace(/=+$/, '')]
    .map((letter) => letters.indexOf(letter).toString(2).padStart(5, '0'))
    .join('');
  return Buffer.from((bits.match(/.{8}/g) ?? []).map((byte) => parseInt(byte, 2))).toString();
}
