import { readFileSync } from 'node:fs';
import { cells, changeId, expect, test } from './support';

test('the ledger shows each verdict with sign, word and range, sorted and filtered by it', async ({
  page,
}) => {
  await page.goto('/sites/1/ledger');
  const line = page.getByRole('link', { name: /Shorter title on the smoker guide/ });
  await expect(line).toContainText(/lifted \d+%/);
  await expect(line).toContainText(/Appeal \+\d+% to \+\d+%/);
  await page.getByLabel('Verdict').selectOption('lifted');
  await expect(page).toHaveURL(/verdict=lifted/);
  const lines = page.getByRole('region', { name: 'Changes' }).getByRole('listitem').getByRole('link');
  const texts = await lines.allInnerTexts();
  expect(texts.length).toBeGreaterThan(3);
  expect(texts.every((text) => text.includes('lifted'))).toBe(true);

  await page.getByLabel('Verdict').selectOption('any verdict');
  await page.getByLabel('Order').selectOption('by verdict');
  await expect(page).toHaveURL(/sort=verdict/);
  // The word stands at the head of a line of its own; titles may hold the same words.
  const words = ['lifted', 'dropped', 'held', 'unclear', 'waiting'];
  const order = (await lines.allInnerTexts()).map((text) =>
    words.findIndex((word) => text.split('\n').some((part) => part.trim().startsWith(word))),
  );
  expect(order).toEqual([...order].sort((a, b) => a - b));
  expect(new Set(order).size).toBeGreaterThan(2);
});

test('a reading is narrowed to a query and a device together, and Back widens it again', async ({
  page,
  request,
}) => {
  const id = await changeId(request, 'Shorter title on the smoker guide');
  await page.goto(`/sites/1/ledger/${id}`);
  const whole = await cells(page, 'Clicks');
  await page.getByLabel('Query', { exact: true }).selectOption('bee smoker');
  await expect(page).toHaveURL(/query=bee/);
  await expect(page.getByRole('heading', { name: /^Why clicks moved/ })).toBeVisible();
  await expect.poll(async () => (await cells(page, 'Clicks'))[0]).not.toBe(whole[0]);
  const api = await (await request.get(`/api/v1/changes/${id}/reading?query=bee%20smoker`)).json();
  expect((await cells(page, 'Clicks'))[0]).toBe(api.metrics.clicks.before.toLocaleString('en-GB'));
  await page.getByLabel('Device').selectOption('mobile');
  await expect(page).toHaveURL(/device=mobile/);
  // Both at once: the query on that device.
  await expect(page).toHaveURL(/query=bee/);
  const both = await (
    await request.get(`/api/v1/changes/${id}/reading?query=bee%20smoker&device=mobile`)
  ).json();
  expect(both.narrowed).toMatchObject({ query: 'bee smoker', device: 'mobile' });
  await expect
    .poll(async () => (await cells(page, 'Clicks'))[0])
    .toBe(
      both.metrics.clicks.before === null ? '\u2013' : both.metrics.clicks.before.toLocaleString('en-GB'),
    );
  await page.goBack();
  await page.goBack();
  await expect.poll(async () => (await cells(page, 'Clicks'))[0]).toBe(whole[0]);
});

test('a reading is asked as it stood on an earlier day, and comes back to now', async ({ page, request }) => {
  const id = await changeId(request, 'Shorter title on the smoker guide');
  const now = await (await request.get(`/api/v1/changes/${id}/reading`)).json();
  expect(now.asOf).toBeNull();
  await page.goto(`/sites/1/ledger/${id}`);
  const early = new Date(Date.parse(now.spans.after.firstDay) + 15 * 86_400_000).toISOString().slice(0, 10);
  await page.getByLabel('as known on').fill(early);
  await page.getByRole('button', { name: 'Read again' }).click();
  await expect(page).toHaveURL(new RegExp(`asOf=${early}`));
  await expect(page.getByText(/As it stood with the figures up to/)).toBeVisible();
  await expect(page.getByText(/So far: /)).toBeVisible();
  const then = await (await request.get(`/api/v1/changes/${id}/reading?asOf=${early}`)).json();
  expect(then).toMatchObject({ asOf: early, verdict: 'waiting', spans: { complete: false } });
  await page.getByRole('button', { name: 'As known now' }).click();
  await expect(page).not.toHaveURL(/asOf/);
  await expect(page.getByText(/As it stood/)).toHaveCount(0);
});

test('a reading has five measures, in the table, the picture and the queries', async ({ page, request }) => {
  const id = await changeId(request, 'Shorter title on the smoker guide');
  await page.goto(`/sites/1/ledger/${id}`);
  const api = await (await request.get(`/api/v1/changes/${id}/reading`)).json();
  expect((await cells(page, 'Appeal'))[0]).toBe(api.metrics.appeal.before.toFixed(2));
  expect(api.net.appeal.ratio).toBeGreaterThan(1);
  expect(Math.exp(api.estimates.appeal.log)).toBeCloseTo(api.net.appeal.ratio, 9);
  const { log, standardError, critical } = api.estimates.clicks;
  expect(Math.exp(log - critical * standardError)).toBeCloseTo(api.net.clicks.low, 9);
  const queries = page.getByRole('region', { name: /Queries before and after/ });
  await expect(queries.getByRole('columnheader', { name: 'Appeal' }).first()).toBeVisible();
});

test('groups show who moves with whom, and take a name of their own', async ({ page, request }) => {
  await page.goto('/sites/1/groups');
  await expect(page.getByText(/groups? of pages that rose and fell together/)).toBeVisible();
  const { items, learned } = await (await request.get('/api/v1/sites/1/groups')).json();
  expect(learned).toBe(true);
  const [first] = items;
  const part = page
    .locator('section')
    .filter({ has: page.getByRole('heading', { name: first.name, exact: true }) });
  await part.getByText('Its pages').click();
  await expect(part.getByRole('list', { name: /^Pages of/ }).getByRole('link')).toHaveCount(
    first.pages.length,
  );
  await part.getByRole('button', { name: /^Rename/ }).click();
  await page.getByLabel('Name of the group').fill('Spring work');
  await page.getByRole('button', { name: 'Keep' }).click();
  await expect(page.getByRole('heading', { name: 'Spring work' })).toBeVisible();
  await page.getByRole('button', { name: 'Rename Spring work' }).click();
  await page.getByLabel('Name of the group').fill('');
  await page.getByRole('button', { name: 'Keep' }).click();
  await expect(page.getByRole('heading', { name: first.name, exact: true })).toBeVisible();
});

test('a change on several pages shows each by itself', async ({ page, request }) => {
  const id = await changeId(request, 'Links from the calendar to twelve guides');
  await page.goto(`/sites/1/ledger/${id}`);
  const part = page.getByRole('region', { name: 'Each page by itself' });
  await expect(part.getByRole('row')).toHaveCount(13);
  await expect(page.getByText(/Of 12 pages with figures, \d+ lifted/)).toBeVisible();
  await part.getByRole('link').first().click();
  await expect(page).toHaveURL(/page=\d+/);
  await expect(page.getByLabel('Page', { exact: true })).not.toHaveValue('');
});

test('queries before and after can be searched, sorted and saved', async ({ page, request }) => {
  const id = await changeId(request, 'Shorter title on the smoker guide');
  await page.goto(`/sites/1/ledger/${id}`);
  const table = page.getByRole('region', { name: 'Queries before and after' });
  await expect(table.getByRole('rowheader', { name: /^bee smoker ?, named by the change$/ })).toBeVisible();
  await table.getByRole('button', { name: 'query' }).click();
  const names = await table.getByRole('rowheader').allInnerTexts();
  expect(names).toEqual([...names].sort());
  await page.getByLabel('Search the queries').fill('fuel');
  await expect(table.getByRole('rowheader')).toHaveCount(1);
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'Save as CSV' }).first().click(),
  ]);
  const [head, row] = readFileSync(await download.path(), 'utf8')
    .trim()
    .split('\r\n');
  expect(head).toContain('query,seen,clicks before,clicks after');
  expect(row).toContain('bee smoker fuel,kept');
});

test('a planned change says what its page could show, and when', async ({ page }) => {
  await page.goto('/sites/1/ledger/new?page=%2Fguides%2Fwinter-feeding%2F');
  await page.getByLabel('What was changed').fill('Feeder title says frost proof');
  await page.getByLabel('Day', { exact: true }).fill('2026-12-01');
  await page.getByLabel('Metric').selectOption('CTR');
  await page.getByLabel('By how much').fill('30');
  await page.getByRole('button', { name: 'Log the change' }).click();
  await expect(
    page.getByText(/^Still to be made\. In 28 days this page could show a change in CTR of \d+% or more\./),
  ).toBeVisible();
  await expect(page.getByRole('heading', { name: 'What this page could show' })).toBeVisible();
  await expect(page.getByText(/What is expected amounts to 30%/)).toBeVisible();
  await expect(page.getByRole('link', { name: /Feeder title says frost proof/ })).toContainText('planned');
});

test('every part says how it is read', async ({ page, request }) => {
  const id = await changeId(request, 'Shorter title on the smoker guide');
  await page.goto(`/sites/1/ledger/${id}`);
  const why = page.locator('section').filter({ has: page.getByRole('heading', { name: /^Why clicks/ }) });
  await why.getByText('how to read this').click();
  await expect(why.getByText(/The four add up to the difference/)).toBeVisible();
});

test('the scorebook gives the clicks as counted beside the adjusted effects', async ({ page, request }) => {
  await page.goto('/sites/1/scorebook');
  const line = page.getByRole('table', { name: 'Winners' }).getByRole('row').nth(1);
  await expect(line).toContainText(/[\d,]+ → [\d,]+ clicks, to /);
  const id = /ledger\/(\d+)/.exec((await line.getByRole('link').getAttribute('href'))!)![1];
  const { metrics } = await (await request.get(`/api/v1/changes/${id}/reading`)).json();
  const [before, after] = [metrics.clicks.before, metrics.clicks.after].map((n: number) =>
    n.toLocaleString('en'),
  );
  await expect(line).toContainText(`${before} → ${after}`);
});
