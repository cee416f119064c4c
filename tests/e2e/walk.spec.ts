import { cells, changeId, dailyCsv, EMPTY, expect, importDone, test } from './support';

test('opens the ledger and moves through the changes', async ({ page }) => {
  await page.goto('/sites/1/desk');
  await page.getByRole('link', { name: 'Ledger' }).click();
  await expect(page).toHaveURL(/\/sites\/1\/ledger$/);
  await expect(page.getByText(/^[34]\d changes$/)).toBeVisible();
  await page.getByRole('link', { name: /Shorter title on the smoker guide/ }).click();
  await expect(page.getByRole('heading', { name: 'Shorter title on the smoker guide' })).toBeVisible();
  await expect(
    page.getByText(
      /^It was chosen \d+% more often at the same searches and positions, likely between \d+% and \d+%\./,
    ),
  ).toBeVisible();
  for (const metric of ['Clicks', 'Impressions', 'CTR', 'Position']) {
    const [before, after, difference, , net, range] = await cells(page, metric);
    expect([before, after]).toEqual([
      expect.stringMatching(/^[\d,.]+%?$/),
      expect.stringMatching(/^[\d,.]+%?$/),
    ]);
    expect(difference).toMatch(metric === 'Position' ? /(up|down)$|level/ : /^[+−]/);
    expect(net).toMatch(metric === 'Position' ? /(up|down)$|level/ : /[+−]\d+%|0%/);
    expect(range).toMatch(/ to /);
  }
  await expect(page.getByRole('heading', { name: /^Why clicks moved, [+−]/ })).toBeVisible();
  await expect(page.getByText(/\d+ of \d+ ordinary spells of this page moved this much/)).toBeVisible();
  await expect(page.getByRole('img', { name: /Daily impressions/ })).toBeVisible();

  // With the keys to the next older change and back again.
  await page.keyboard.press('j');
  await expect(page.getByRole('heading', { name: 'Links from the calendar to twelve guides' })).toBeVisible();
  await expect(page.getByText('12 pages, read together')).toBeVisible();
  await page.keyboard.press('k');
  await expect(page.getByRole('heading', { name: 'Shorter title on the smoker guide' })).toBeVisible();
});

test('a change whose days are not over waits', async ({ page }) => {
  await page.goto('/sites/1/ledger?verdict=waiting');
  await page.getByRole('link', { name: /Gift sets: last posting day/ }).click();
  await expect(page.getByText('Too soon to compare anything.')).toBeVisible();
  await expect(
    page.getByText(
      /A first interim figure comes on 1 December 2026; the reading will be complete on 22 December 2026/,
    ),
  ).toBeVisible();
  // What can be known already is there: the level before.
  expect(await cells(page, 'Clicks')).toEqual([expect.stringMatching(/^\d+$/), '–', '–']);
});

test('logs a change of one’s own, and edits it', async ({ page }) => {
  await page.goto('/sites/1/ledger');
  await page.keyboard.press('n');
  await page.getByLabel('What was changed').fill('Bait hive pictures from the yard');
  await page.getByRole('main').getByLabel('Kind').selectOption('Media');
  await page.getByLabel('Day', { exact: true }).fill('2026-09-20');
  await page.getByLabel('Who').fill('IK');
  await page.getByLabel('Pages').fill('bait-hives');
  await page.getByRole('option', { name: /^\/shop\/bait-hives\/\s?[\d,]+ clicks?$/ }).click();
  await page.getByLabel('Old text').fill('One picture of the box');
  await page.getByLabel('New text').fill('Three pictures of it in a tree');
  await page.getByLabel('Metric').selectOption('CTR');
  await page.getByLabel('By how much').fill('15');
  await expect(page.getByLabel('Review day')).toHaveValue('20 Oct 2026');
  await page.getByLabel('Queries it is about').fill('bait hive');
  await page.getByRole('button', { name: 'Log the change' }).click();

  await expect(page.getByRole('heading', { name: 'Bait hive pictures from the yard' })).toBeVisible();
  await expect(page.getByText(/expected CTR \+15%, review 20 Oct 2026/)).toBeVisible();
  await expect(page.getByText('Three pictures of it in a tree')).toBeVisible();
  await expect(page.getByRole('rowheader', { name: /^bait hive ?, named by the change$/ })).toBeVisible();
  await expect(page.getByRole('link', { name: /Bait hive pictures from the yard/ })).toBeVisible();

  await page.getByRole('link', { name: 'Edit', exact: true }).click();
  await expect(page.getByLabel('By how much')).toHaveValue('15');
  await page.getByLabel('What was changed').fill('Bait hive pictures, taken in the yard');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Bait hive pictures, taken in the yard' })).toBeVisible();
});

test('an update entered in the almanac is a doubt of every reading that it touches', async ({
  page,
  request,
}) => {
  await page.goto('/sites/1/almanac');
  const form = page.getByRole('form', { name: 'Note an event' });
  await form.getByLabel('Name').fill('Heather update');
  await form.getByLabel('First day').fill('2026-08-28');
  await form.getByLabel('Last day').fill('2026-09-02');
  await form.getByRole('button', { name: 'Note it' }).click();
  const line = page.getByRole('listitem').filter({ hasText: 'Heather update' });
  await expect(line).toContainText(/touches [1-9]\d* readings/);

  const id = await changeId(request, 'Shorter title on the smoker guide');
  await page.goto(`/sites/1/ledger/${id}`);
  const doubt = page.getByRole('listitem').filter({ hasText: 'Heather update' });
  await expect(doubt).toContainText('6 of the 28 before days');
  await doubt.getByRole('link', { name: 'In the almanac' }).click();
  await expect(page).toHaveURL(/almanac#event-/);

  const untouched = await changeId(request, 'Course dates as event data');
  await page.goto(`/sites/1/ledger/${untouched}`);
  await expect(page.getByRole('heading', { name: 'Course dates as event data' })).toBeVisible();
  await expect(page.getByText('Heather update')).toHaveCount(0);
});

test('brings in a file of one’s own and reads a change against it', async ({ page }) => {
  await page.goto(`${EMPTY}/sites/new`);
  await page.getByLabel('Name').fill('Quillow Bee Yard');
  await page.getByLabel('Address').fill('www.quillow-bees.example');
  await page.getByRole('button', { name: 'Add the site' }).click();
  await expect(page.getByRole('heading', { name: 'Intake' })).toBeVisible();

  const csv = dailyCsv('/guides/frame-sizes/', '2026-05-01', 90, '2026-06-10', [10, 15]);
  await page.setInputFiles('input[type=file]', {
    name: 'june.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(csv),
  });
  await expect(page.getByRole('heading', { name: 'june.csv' })).toBeVisible();
  await expect(page.getByRole('cell', { name: '/guides/frame-sizes/' }).first()).toBeVisible();
  await page.getByRole('button', { name: 'Bring in 90 rows' }).click();
  await expect(page.getByText('90 rows by page are in, from 1 May 2026 to 29 Jul 2026.')).toBeVisible();

  await page.getByRole('link', { name: 'To the ledger' }).click();
  await page.getByRole('link', { name: 'Log a change' }).first().click();
  await page.getByLabel('What was changed').fill('Frame sizes as a table');
  await page.getByLabel('Day', { exact: true }).fill('2026-06-10');
  await page.getByLabel('Pages').fill('/guides/frame-sizes/');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Log the change' }).click();

  // One page alone has no yardstick, but how often it is chosen hardly needs one.
  await expect(
    page.getByText(/It was chosen 50% more often at the same searches and positions/),
  ).toBeVisible();
  await expect(page.getByText(/No untouched page has enough figures to be the yardstick/)).toBeVisible();
  expect((await cells(page, 'Clicks')).slice(0, 3)).toEqual(['280', '420', '+140 +50.0%']);
  expect((await cells(page, 'CTR')).slice(0, 3)).toEqual(['5.00%', '7.50%', '+2.50 pt +50.0%']);
  expect((await cells(page, 'Position')).slice(0, 3)).toEqual(['5.5', '5.5', 'level']);
});

test('a change whose days are over waits for figures, and leads to where they come in', async ({
  page,
  request,
}) => {
  const post = async (url: string, data: unknown): Promise<number> =>
    ((await (await request.post(EMPTY + url, { data })).json()) as { id: number }).id;
  const site = await post('/api/v1/sites', { name: 'Heath', address: 'heath.quillow-bees.example' });
  const change = {
    ...{ title: 'Opening times in the title', kind: 'title-rewrite', day: '2026-06-10' },
    ...{ pages: ['/visit/'], queries: ['bee yard opening times'] },
  };
  const id = await post(`/api/v1/sites/${site}/changes`, change);
  await page.goto(`${EMPTY}/sites/${site}/ledger/${id}`);
  await expect(page.getByText('There are no figures for these days yet.')).toBeVisible();

  // Figures that end in the middle of the after span, which goes from 13 June to 10 July.
  const sent = await request.post(`${EMPTY}/api/v1/sites/${site}/imports`, {
    data: dailyCsv('/visit/', '2026-05-01', 60, '2026-06-10', [10, 15]),
    headers: { 'Content-Type': 'text/csv' },
  });
  await importDone(request, `${EMPTY}/api/v1/imports/${((await sent.json()) as { id: number }).id}`);
  await page.reload();
  await expect(
    page.getByText(/So far: It was chosen 50% more often at the same searches and positions/),
  ).toBeVisible();
  await expect(page.getByText(/Its days are over: bring in figures up to 10 July 2026/)).toBeVisible();
  await expect(page.getByText(/No rows by query were brought in for these days/)).toBeVisible();
  await expect(page.getByRole('link', { name: /Opening times in the title/ })).toContainText('for figures');
  await page.getByRole('main').getByRole('link', { name: 'Bring figures in' }).click();
  await expect(page.getByRole('heading', { name: 'Intake' })).toBeVisible();
});
