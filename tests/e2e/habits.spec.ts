import { readFileSync } from 'node:fs';
import { awaitLife, changeId, expect, test } from './support';

test('filter, order and selection live in the address', async ({ page }) => {
  await page.goto('/sites/1/ledger');
  await page.getByLabel('Kind').selectOption('Internal links');
  await expect(page).toHaveURL(/of=internal-links/);
  await expect(page.getByText('3 of 35 changes').or(page.getByText('3 of 36 changes'))).toBeVisible();
  await page.getByRole('link', { name: /Wasp guide moved/ }).click();
  await expect(page).toHaveURL(/ledger\/\d+\?of=internal-links/);
  await page.reload();
  await expect(page.getByRole('heading', { name: 'Wasp guide moved under the calendar' })).toBeVisible();
  await expect(page.getByRole('link', { name: /Links from the calendar to six guides/ })).toBeVisible();
  await expect(page.getByRole('link', { name: /Heading order put right/ })).toHaveCount(0);
});

test('what is searched in the almanac and among pages lives in the address too', async ({ page }) => {
  await page.goto('/sites/1/almanac?q=newsletter');
  await expect(page.getByText('Honey show newsletter', { exact: true })).toBeVisible();
  await expect(page.getByText('Clover update', { exact: true })).toHaveCount(0);
  await page.getByLabel('Search the almanac').fill('outage');
  await expect(page).toHaveURL(/almanac\?q=outage/);
  await expect(page.getByText('Shop down for an afternoon')).toBeVisible();

  // A part of the list that the search leaves empty, or an order that does not exist, shows what there is.
  await page.goto('/sites/1/pages?q=%2Fshop%2F&cursor=7000&sort=nothing');
  const list = page.getByRole('rowheader').filter({ has: page.getByRole('link') });
  await expect(list.first()).toContainText('/shop/');
});

test('other spans are read from the address, and Back returns to the first', async ({ page, request }) => {
  const id = await changeId(request, 'Shorter title on the smoker guide');
  await page.goto(`/sites/1/ledger/${id}`);
  const first = await page.getByRole('row').filter({ hasText: 'Clicks' }).first().innerText();
  await page.getByLabel('spans of').fill('14');
  await page.getByRole('button', { name: 'Read again' }).click();
  await expect(page).toHaveURL(/windowDays=14/);
  const row = page.getByRole('row').filter({ hasText: 'Clicks' }).first();
  await expect(row).not.toHaveText(first);
  const api = await (await request.get(`/api/v1/changes/${id}/reading?windowDays=14&settlingDays=3`)).json();
  await expect(row).toContainText(api.metrics.clicks.before.toLocaleString('en-GB'));
  await page.goBack();
  await expect(page).not.toHaveURL(/windowDays/);
});

test('every key has its place, and none fires while one types', async ({ page }) => {
  await page.goto('/sites/1/pages');
  await page.keyboard.press('/');
  await expect(page.getByLabel('Search pages')).toBeFocused();
  await page.keyboard.type('njk?');
  await expect(page).toHaveURL(/\/pages\?q=/);
  await page.getByLabel('Search pages').fill('');
  await page.getByLabel('Search pages').blur();
  await page.keyboard.press('?');
  await expect(page.getByRole('heading', { name: 'Keys' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await page.keyboard.press('Control+k');
  const where = page.getByPlaceholder('A screen, page, query, change, event, experiment or report');
  // The page of that name first, no screen by scattered letters; what is called otherwise is not there.
  await where.fill('mead');
  await expect(page.getByRole('listbox').getByRole('option').first()).toContainText('/guides/mead-basics/');
  await expect(page.getByRole('listbox').getByRole('option', { name: /^Settings/ })).toHaveCount(0);
  await where.fill('nothing of that name');
  await expect(page.getByText('Nothing has the words “nothing of that name”.')).toBeVisible();
  await where.fill('mite thres');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Mite thresholds in the description' })).toBeVisible();
  await page.keyboard.press('n');
  await expect(page.getByRole('heading', { name: 'Log a change' })).toBeVisible();
});

test('what is typed survives a closed tab and a refused form', async ({ page, context }) => {
  await page.goto('/sites/1/ledger/new');
  await page.getByLabel('What was changed').fill('A thought half written');
  await page.getByLabel('Note').fill('to be finished');
  await page.getByRole('button', { name: 'Log the change' }).click();
  await expect(page.getByText('Name at least one page.')).toBeVisible();
  await expect(page.getByLabel('Note')).toHaveValue('to be finished');
  await page.close();
  const again = await context.newPage();
  awaitLife(again);
  await again.goto('/sites/1/ledger/new');
  // Another tab begins a form of its own, and offers what the closed one has left.
  await expect(again.getByLabel('What was changed')).toHaveValue('');
  await again.getByRole('button', { name: 'Go on with it' }).click();
  await expect(again.getByLabel('What was changed')).toHaveValue('A thought half written');
  await expect(again.getByLabel('Note')).toHaveValue('to be finished');
  await again.reload();
  await expect(again.getByLabel('Note')).toHaveValue('to be finished');
  await again.getByRole('button', { name: 'Begin from what is saved' }).click();
  await expect(again.getByLabel('Note')).toHaveValue('');
});

test('an address of another site is refused beside its field, by the server', async ({ page }) => {
  await page.goto('/sites/1/ledger/new');
  await page.getByLabel('What was changed').fill('Elsewhere');
  await page.getByLabel('Pages').fill('https://www.other-yard.example/');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Log the change' }).click();
  await expect(
    page.getByText('www.other-yard.example is another site than www.quillow-bees.example.'),
  ).toBeVisible();
});

test('several pages can be pasted at once', async ({ page }) => {
  await page.goto('/sites/1/ledger/new');
  await page.getByLabel('Pages').focus();
  await page.evaluate(() => {
    const data = new DataTransfer();
    data.setData('text', '/guides/wasps/\n/guides/robbing/\n\n/guides/nosema/');
    document.activeElement?.dispatchEvent(
      new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
    );
  });
  await expect(page.getByRole('list', { name: 'Pages chosen' }).getByRole('listitem')).toHaveCount(3);
});

test('deleting can be undone', async ({ page, request }) => {
  const id = await changeId(request, 'Smaller pictures on the suits list');
  await page.goto(`/sites/1/ledger/${id}`);
  await page.getByRole('button', { name: 'Delete' }).click();
  await expect(page.getByText('“Smaller pictures on the suits list” was deleted.')).toBeVisible();
  await expect(page.getByRole('link', { name: /Smaller pictures/ })).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('heading', { name: 'Smaller pictures on the suits list' })).toBeVisible();

  await page.goto('/sites/1/almanac');
  await page.getByRole('button', { name: 'Delete Lantern update' }).click();
  await expect(page.getByText('Lantern update', { exact: true })).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('Lantern update', { exact: true })).toBeVisible();
});

test('pages can be sorted, searched and saved', async ({ page }) => {
  await page.goto('/sites/1/pages');
  await page.getByRole('columnheader', { name: 'clicks', exact: true }).getByRole('link').click();
  await expect(page).toHaveURL(/sort=-clicks/);
  const counts = (await page.getByRole('row').locator('td:nth-child(2)').allInnerTexts()).map((t) =>
    Number(t.replaceAll(',', '')),
  );
  expect(counts.length).toBeGreaterThanOrEqual(40);
  expect(counts).toEqual([...counts].sort((a, b) => b - a));
  await page.getByLabel('Search pages').fill('/shop/');
  await expect(page.getByText(/^2\d of \d+ pages$/)).toBeVisible();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'CSV' }).click(),
  ]);
  const saved = readFileSync(await download.path(), 'utf8')
    .trim()
    .split('\r\n');
  expect(saved[0]).toContain('page,clicks,clicks before,clicks difference');
  expect(saved.slice(1).every((line) => line.includes('/shop/'))).toBe(true);
});

test('settings of the site shape its readings', async ({ page, request }) => {
  const id = await changeId(request, 'Mite thresholds in the description');
  await page.goto('/sites/1/settings');
  await page.getByLabel('Settling days').fill('-1');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('Settling days cannot be negative.')).toBeVisible();
  await page.getByLabel('Settling days').fill('10');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText(/Saved/)).toBeVisible();
  expect((await (await request.get(`/api/v1/changes/${id}/reading`)).json()).spans.settlingDays).toBe(10);
  await page.getByLabel('Settling days').fill('3');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect
    .poll(async () => (await (await request.get(`/api/v1/changes/${id}/reading`)).json()).spans.settlingDays)
    .toBe(3);
});
