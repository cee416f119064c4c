import { readFileSync } from 'node:fs';
import { expect, test } from './support';

test('from an opening to a planned change in under ten steps', async ({ page, request }) => {
  await page.goto('/sites/1/openings');
  await page.getByRole('link', { name: /^chosen too little$/ }).click();
  await expect(page).toHaveURL(/kind=chosen-too-little/);
  await page.keyboard.press('j');
  await expect(page).toHaveURL(/open=/);
  const heading = await page.getByRole('heading', { level: 2 }).first().innerText();
  await expect(
    page.getByText(/Expect \+[\d,]+ clicks a month.* The full gap is [\d,]+ clicks a month/),
  ).toBeVisible();
  // The same key that logs a change anywhere takes this one on.
  await page.keyboard.press('n');
  await expect(page).toHaveURL(/ledger\/new\?planned=1/);
  await expect(page.getByText(heading).first()).toBeVisible();
  // The form was reached by a link, so nothing tells when it has come to life.
  await expect(async () => {
    await page.getByRole('button', { name: 'Log the change' }).click();
    await expect(page).toHaveURL(/ledger\/\d+/, { timeout: 6000 });
  }).toPass();
  const id = /ledger\/(\d+)/.exec(page.url())![1];
  const change = await (await request.get(`/api/v1/changes/${id}`)).json();
  expect(change).toMatchObject({
    planned: true,
    kind: 'title-rewrite',
    expectation: { metric: 'appeal', direction: 'up' },
  });
  expect(change.pages[0]).toContain(heading);
  await request.delete(`/api/v1/changes/${id}`);
});

test('an opening that is not worth it goes, and comes back by Undo', async ({ page }) => {
  await page.goto('/sites/1/openings?kind=out-of-order');
  const first = page.getByRole('listitem').filter({ hasText: 'out of order' });
  // The list may come a little after the screen.
  await expect(page.getByRole('button', { name: 'Not worth it' })).toBeVisible();
  const count = await first.count();
  await page.getByRole('button', { name: 'Not worth it' }).click();
  await page.getByLabel('Why it is not worth it').fill('nobody reads it');
  await page.getByRole('button', { name: 'Put it aside' }).click();
  await expect(first).toHaveCount(count - 1);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(first).toHaveCount(count);
  await page.reload();
  await expect(first).toHaveCount(count);
});

test('it is seen when a page fell, and what happened near it', async ({ page, request }) => {
  const shifts = await (
    await request.get('/api/v1/sites/1/shifts', { params: { page: '/guides/swarm-signs/' } })
  ).json();
  const fell = shifts.items.at(-1);
  expect(fell.ratio).toBeLessThan(0.8);
  expect(fell.firstDay <= fell.day && fell.day <= fell.lastDay).toBe(true);
  await page.goto('/sites/1/openings?kind=slipped');
  await page.getByRole('link', { name: /swarm-signs/ }).click();
  await page.getByRole('link', { name: 'Open the page’s screen' }).click();
  await expect(page.getByRole('heading', { name: 'When did it move?' })).toBeVisible();
  await expect(page.getByText(/fell by \d+%/).first()).toBeVisible();
  await expect(page.getByText('said', { exact: true })).toBeVisible();
});

test('it is seen when a query fell, which page led for it, and what was looked up', async ({
  page,
  request,
}) => {
  const shifts = await (
    await request.get('/api/v1/sites/1/shifts', { params: { query: 'moving a beehive' } })
  ).json();
  const fell = shifts.items.at(-1);
  expect(fell.ratio).toBeLessThan(0.8);
  await page.goto('/sites/1/queries?q=moving+a+beehive');
  await page.getByRole('link', { name: 'moving a beehive', exact: true }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText('“moving a beehive”');
  await expect(page.getByText(/fell by \d+%/).first()).toBeVisible();

  await page.goto('/sites/1/openings?kind=shared');
  await page
    .getByRole('link', { name: /take turns/ })
    .first()
    .click();
  await page.goto('/sites/1/queries?q=splitting+a+hive');
  await page.getByRole('link', { name: 'splitting a hive', exact: true }).click();
  await expect(page.getByText(/led on \d+ of \d+ days; the lead changed \d+ times/)).toBeVisible();

  await page.goto('/sites/1/queries?sort=-impressions');
  await page.getByRole('link', { name: 'winter feeding bees', exact: true }).click();
  await expect(page.getByText(/positions that were checked \(\d+\)/)).toBeVisible();
});

test('a sheet of ten pages is made, kept, and saved with a column for what was worked in', async ({
  page,
  request,
}) => {
  const most = await (
    await request.get('/api/v1/sites/1/pages', { params: { q: '/shop/', sort: '-clicks', limit: 11 } })
  ).json();
  const tenth: number = most.items[9].clicks;
  expect(most.items[10].clicks).toBeLessThan(tenth);
  await page.goto(`/sites/1/pages?q=%2Fshop%2F&clicks.min=${tenth}`);
  await page.getByRole('button', { name: /Make a sheet of these/ }).click();
  await page.getByLabel('Name of the sheet').fill('Shop in autumn');
  await page.getByRole('button', { name: 'Make it' }).click();
  await expect(page).toHaveURL(/\/sheets$/);
  const row = page.getByRole('row').filter({ hasText: 'Shop in autumn' });
  await expect(row).toContainText('10 pages');
  for (const anew of [false, true]) {
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      row
        .getByRole('link', { name: /^CSV/ })
        .nth(anew ? 1 : 0)
        .click(),
    ]);
    const lines = readFileSync(await download.path(), 'utf8')
      .trim()
      .split('\r\n');
    expect(lines[0]).toContain('worked in');
    expect(lines[0]!.includes('impressions then')).toBe(anew);
    expect(lines.length).toBeGreaterThan(30);
    expect(lines.slice(1).every((line) => line.includes('/shop/'))).toBe(true);
  }
  await row.getByRole('button', { name: /Take away/ }).click();
  await expect(row).toHaveCount(0);
});

test('queries are narrowed, the filter is kept under a name, and its address opens it again', async ({
  page,
}) => {
  await page.goto('/sites/1/queries');
  await page.getByRole('link', { name: /^workable/ }).click();
  await expect(page).toHaveURL(/position\.min=5\.01/);
  await page.getByLabel('Search queries').fill('hive');
  await expect(page).toHaveURL(/q=hive/);
  await expect(page.getByText(/^\d+ of \d+ queries$/)).toBeVisible();
  const list = page.getByRole('rowheader').filter({ has: page.getByRole('link') });
  const names = await list.allInnerTexts();
  expect(names.length).toBeGreaterThan(0);
  expect(names.every((name) => name.includes('hive'))).toBe(true);
  await page.getByRole('button', { name: 'Keep this filter' }).click();
  await page.getByLabel('Name of the filter').fill('hives to work on');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByRole('link', { name: 'hives to work on' })).toBeVisible();
  await page.goto('/sites/1/queries');
  await page.getByRole('link', { name: 'hives to work on' }).click();
  await expect(page).toHaveURL(/q=hive/);
  await page.getByRole('button', { name: 'Keep hives to work on no longer' }).click();
  await expect(page.getByRole('link', { name: 'hives to work on' })).toHaveCount(0);
  await page.goto('/sites/1/queries?q=nothing-at-all-like-this');
  await expect(page.getByText(/No query fits all of this/)).toBeVisible();
});

test('what a query is after is set by hand, and taken back', async ({ page, request }) => {
  const { items } = await (
    await request.get('/api/v1/sites/1/queries', { params: { q: 'wasps at the hive', limit: 1 } })
  ).json();
  await page.goto(`/sites/1/queries/${items[0].queryId}`);
  await page.getByLabel('intent').selectOption('to buy');
  await expect
    .poll(async () => (await (await request.get(`/api/v1/queries/${items[0].queryId}`)).json()).intent)
    .toBe('to-buy');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect
    .poll(async () => (await (await request.get(`/api/v1/queries/${items[0].queryId}`)).json()).intent)
    .toBeNull();
});

test('lists over HTTP are sorted, narrowed and paged, and refuse what makes no sense', async ({
  request,
}) => {
  const get = async (path: string) => (await request.get(`/api/v1/sites/1/${path}`)).json();
  const first = await get('queries?sort=-impressions&limit=5&clicks.min=1&position.max=20.99');
  expect(first.items).toHaveLength(5);
  const seen = first.items.map((item: { impressions: number }) => item.impressions);
  expect(seen).toEqual([...seen].sort((a: number, b: number) => b - a));
  const next = await get(
    `queries?sort=-impressions&limit=5&clicks.min=1&position.max=20.99&cursor=${first.next}`,
  );
  expect(next.total).toBe(first.total);
  expect(next.items[0].impressions).toBeLessThanOrEqual(seen.at(-1)!);
  expect(next.items[0].query).not.toBe(first.items[0].query);
  const pages = await get('pages?against=none&limit=3');
  expect(pages.items[0]).toMatchObject({ difference: null, query: null });
  const pageOf = await get(`queries/pages?query=${encodeURIComponent(first.items[0].query)}`);
  expect(pageOf.items.length).toBeGreaterThan(0);
  for (const path of [
    'queries?sort=nonsense',
    'pages?from=2026-11-20&to=2026-11-01',
    'pages?limit=0',
    'openings?from=2026-01-01',
  ]) {
    const refused = await request.get(`/api/v1/sites/1/${path}`);
    expect([path, refused.status()]).toEqual([path, 422]);
  }
  const sheet = await request.get('/api/v1/sites/1/sheet?pages=/guides/wasps/,/shop/feeders/&as=xlsx');
  expect(sheet.headers()['content-type']).toContain('spreadsheetml');
});
