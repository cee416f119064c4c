import { readFileSync } from 'node:fs';
import { spreadsheet } from '../support/spreadsheet';
import { DEMO, expect, test } from './support';

const upload = (name: string, text: string) => ({ name, mimeType: 'text/csv', buffer: Buffer.from(text) });

test.beforeEach(async ({ page }) => {
  await page.goto('/sites/1/intake');
});

test('asks for the order of day and month where the file leaves it open', async ({ page }) => {
  const csv =
    'Day;URL;Clicks;Impr.\n03/09/2025;/guides/made-for-a-test/;1;20\n04/09/2025;/guides/made-for-a-test/;2;20';
  await page.setInputFiles('input[type=file]', upload('dates.csv', csv));
  const go = page.getByRole('button', { name: 'Bring in 2 rows' });
  await expect(go).toBeDisabled();
  await page.getByLabel(/month first/).check();
  await expect(page.getByRole('cell', { name: '2025-03-09' })).toBeVisible();
  await page.getByLabel(/day first/).check();
  await expect(page.getByRole('cell', { name: '2025-09-03' })).toBeVisible();
  await go.click();
  await expect(page.getByText('2 rows by page are in, from 3 Sep 2025 to 4 Sep 2025.')).toBeVisible();
});

test('columns can be mapped by hand, and the preview follows', async ({ page }) => {
  const csv = 'when,where,seen,pressed\n2025-09-03,/guides/made-for-a-test/,70,7';
  await page.setInputFiles('input[type=file]', upload('odd.csv', csv));
  await expect(page.getByText('There is no date column')).toBeVisible();
  for (const [column, field] of [
    ['when', 'Day'],
    ['where', 'Page'],
    ['pressed', 'Clicks'],
    ['seen', 'Impressions'],
  ] as const) {
    await page.getByLabel(column, { exact: true }).selectOption(field);
  }
  await expect(page.getByRole('cell', { name: '10.00%' })).toBeVisible();
  await page.getByRole('button', { name: 'Bring in 1 row' }).click();
  await expect(page.getByText('1 row by page is in')).toBeVisible();
});

test('refused rows are listed with line and reason, and can be saved', async ({ page }) => {
  const csv = 'date,page,clicks,impressions\n2025-09-03,/ok/,1,2\n2025-09-31,/ok/,1,2\n2025-09-04,=1+1,-3,2';
  await page.setInputFiles('input[type=file]', upload('bad.csv', csv));
  await expect(page.getByText('refused: The date 2025-09-31 does not exist in the calendar.')).toBeVisible();
  await page.getByRole('button', { name: 'Bring in 3 rows' }).click();
  await expect(page.getByRole('heading', { name: 'Refused rows' })).toBeVisible();
  await expect(page.getByRole('cell', { name: 'Clicks cannot be negative (-3).' })).toBeVisible();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByText('Save them as CSV').click(),
  ]);
  const saved = readFileSync(await download.path(), 'utf8');
  expect(saved.split('\r\n')[1]).toBe(
    '3,The date 2025-09-31 does not exist in the calendar.,2025-09-31,/ok/,1,2',
  );
  // A cell that a spreadsheet program would run as a formula comes back as text.
  expect(saved).toContain("'=1+1");
});

test('a file that was not confirmed stays in sight, and can be dropped', async ({ page }) => {
  await page.setInputFiles(
    'input[type=file]',
    upload('later.csv', 'date,page,clicks,impressions\n2025-09-03,/ok/,1,2'),
  );
  await expect(page.getByRole('heading', { name: 'later.csv' })).toBeVisible();
  await page.getByRole('link', { name: 'Intake' }).click();
  await expect(page.getByRole('row').filter({ hasText: 'later.csv' })).toContainText('not confirmed yet');
  await page.getByRole('link', { name: 'later.csv' }).click();
  await page.getByRole('button', { name: 'Not this file' }).click();
  await expect(page.getByRole('heading', { name: 'Brought in so far' })).toBeVisible();
  await expect(page.getByText('later.csv')).toHaveCount(0);
});

test('what is no CSV is refused in a sentence', async ({ page }) => {
  await page.setInputFiles('input[type=file]', upload('page.csv', '<!doctype html><p>Sign in'));
  await expect(page.getByRole('main').getByRole('alert')).toContainText(
    'This is an HTML or XML page, not a CSV. Nothing was stored.',
  );
});

test('a large file goes in with a moving count and shows in the list', async ({ page }) => {
  const lines = ['date,page,query,clicks,impressions,position'];
  for (let i = 0; i < 60_000; i++) {
    lines.push(`2025-08-${String(1 + (i % 28)).padStart(2, '0')},/guides/long/,query ${i},1,20,4.5`);
  }
  await page.setInputFiles('input[type=file]', upload('long.csv', lines.join('\n')));
  await page.getByRole('button', { name: 'Bring in 60,000 rows' }).click();
  await expect(page.getByRole('status').filter({ hasText: /[1-9][\d,]* rows read/ })).toBeVisible();
  await expect(page.getByText('60,000 rows by page and query are in')).toBeVisible();
  await page.goto(`${DEMO}/sites/1/intake`);
  await expect(page.getByRole('row').filter({ hasText: 'long.csv' })).toContainText('60,000');
});

test('several files at once, brought in as they are understood, and one undone again', async ({ page }) => {
  const head = 'date,page,clicks,impressions';
  await page.setInputFiles('input[type=file]', [
    upload('a1.csv', `${head}\n2025-08-01,/guides/made-for-a-test/,1,20`),
    upload(
      'a2.csv',
      `${head}\n2025-08-01,/guides/made-for-a-test/,5,50\n2025-08-02,/guides/made-for-a-test/,2,20`,
    ),
    upload('a3.csv', `${head}\n03/09/2025,/guides/made-for-a-test/,1,20`),
  ]);
  await page.getByRole('button', { name: /Bring in all \d+ as they are understood/ }).click();
  await expect(page.getByText(/2 files in the queue; \d+ files? left/)).toBeVisible();
  const row = page.getByRole('row').filter({ hasText: 'a2.csv' });
  await expect(async () => {
    await page.reload();
    await expect(row).toContainText('1 Aug – 2 Aug 2025', { timeout: 500 });
  }).toPass();
  await expect(page.getByRole('row').filter({ hasText: 'a3.csv' })).toContainText('not confirmed yet');
  // The second replaced what the first brought, with another value.
  expect((await row.getByRole('cell').allTextContents()).slice(-4)).toEqual(['2', '1', '1', '0']);
  await page.getByRole('link', { name: 'a2.csv' }).click();
  await page.getByRole('button', { name: 'Undo this file' }).click();
  await expect(page.getByText('This file is undone: none of its 2 rows count')).toBeVisible();
  await page.getByRole('button', { name: 'Let it count again' }).click();
  await expect(page.getByText('2 rows by page are in')).toBeVisible();
  await page.getByRole('link', { name: 'Intake' }).click();
  await page.getByRole('link', { name: 'a3.csv' }).click();
  await page.getByRole('button', { name: 'Not this file' }).click();
});

test('totals of a period ask for its days, and show in the list of pages', async ({ page }) => {
  const csv = 'Page;Clicks;Impr.;Avg. position\n/guides/frame-sizes/;12;340;4,2';
  await page.setInputFiles('input[type=file]', upload('totals.csv', csv));
  const go = page.getByRole('button', { name: 'Bring in 1 row' });
  await expect(go).toBeDisabled();
  await page.getByLabel('first day').fill('2024-02-01');
  await page.getByLabel('last day').fill('2024-02-28');
  await go.click();
  await expect(
    page.getByText('1 row by page, of a period is in, from 1 Feb 2024 to 28 Feb 2024.'),
  ).toBeVisible();
  await page.getByRole('link', { name: 'Pages', exact: true }).click();
  await page.getByRole('link', { name: 'period totals 1 Feb – 28 Feb 2024' }).click();
  await expect(page.getByText('as they were brought in, not daily figures')).toBeVisible();
  await expect(page.getByRole('row').filter({ hasText: '/guides/frame-sizes/' })).toContainText('340');
});

test('a spreadsheet comes in as a CSV does', async ({ page }) => {
  const sheet = spreadsheet([
    ['date', 'page', 'clicks', 'impressions'],
    [{ serialDay: 45900 }, '/guides/made-for-a-test/', 3, 40],
  ]);
  await page.setInputFiles('input[type=file]', {
    ...{ name: 'figures.xlsx', mimeType: 'application/octet-stream', buffer: Buffer.from(sheet) },
  });
  await expect(page.getByRole('heading', { name: 'figures.xlsx' })).toBeVisible();
  await expect(page.getByRole('cell', { name: '2025-08-31' })).toBeVisible();
  await page.getByRole('button', { name: 'Not this file' }).click();
});

test('the calendar says which days are there, provisional or missing', async ({ page }) => {
  const calendar = page.getByRole('region', { name: 'Days by page', exact: true });
  await expect(calendar).toContainText(/\d+ days missing/);
  await expect(calendar.getByTitle(/provisional/).first()).toBeVisible();
  await expect(calendar.getByRole('row').filter({ hasText: '2026-10' })).toContainText('31 days there');
});

test('a feed is fetched on demand, though it fails now and then', async ({ page }) => {
  const feed = page.getByRole('listitem').filter({ hasText: 'Daily pages by device' });
  await feed.getByRole('button', { name: /Fetch/ }).click();
  await expect(feed).toContainText(/last fetched/);
  await expect(async () => {
    await page.reload();
    await expect(page.getByRole('row').filter({ hasText: /Daily pages by device, / })).toContainText(
      'by page',
      {
        timeout: 500,
      },
    );
  }).toPass();
});

test('a feed is set up, refused where it is on this machine, and taken away', async ({ page }) => {
  await page.getByRole('button', { name: 'Set up a feed' }).click();
  await page.getByRole('button', { name: 'Set it up and fetch' }).click();
  await expect(page.getByText('The feed needs a name.')).toBeVisible();
  await page.getByLabel('Name of the feed').fill('My own machine');
  await page.getByLabel('Address', { exact: true }).fill('http://127.0.0.1:3411/api/v1/sites');
  await page.getByLabel('fetch it daily').uncheck();
  await page.getByRole('button', { name: 'Set it up and fetch' }).click();
  const feed = page.getByRole('listitem').filter({ hasText: 'My own machine' });
  await expect(feed.getByRole('alert')).toContainText('is on a private network or this machine');
  await feed.getByRole('button', { name: /away/ }).click();
  await expect(page.getByText('My own machine is taken away')).toBeVisible();
  await expect(feed).toHaveCount(0);
});

test('rules of addresses show what they join before they are saved, and can be put back', async ({
  page,
}) => {
  await page.setInputFiles(
    'input[type=file]',
    upload(
      'slashes.csv',
      'date,page,clicks,impressions\n2025-08-01,/guides/one-page,1,20\n2025-08-01,/guides/one-page/,2,30',
    ),
  );
  await page.getByRole('button', { name: 'Bring in 2 rows' }).click();
  await expect(page.getByText('2 rows by page are in')).toBeVisible();
  await page.getByRole('link', { name: 'Addresses' }).click();
  await expect(page.getByRole('button', { name: 'Save these rules' })).toBeDisabled();
  await page.getByLabel('Slash at the end').selectOption('with');
  await page.getByRole('button', { name: 'Show what this joins' }).click();
  await expect(page.getByText(/\d+ pages become \d+ pages/)).toBeVisible();
  await expect(page.getByRole('listitem').filter({ hasText: 'one-page' })).toContainText('comes of');
  await page.getByRole('button', { name: 'Save these rules' }).click();
  await expect(page.getByText('All figures follow the new rules.')).toBeVisible();
  await page.goto('/sites/1/pages?q=one-page');
  await expect(page.getByText(/^1 of/)).toBeVisible();
  await page.goto('/sites/1/addresses');
  await page.getByRole('button', { name: 'Put the rules before back' }).click();
  await expect(page.getByText('The rules before are back.')).toBeVisible();
  await page.goto('/sites/1/pages?q=one-page');
  await expect(page.getByText(/^2 of/)).toBeVisible();
});

test('what does not match between sources is listed, and joined with one click', async ({ page }) => {
  await page.setInputFiles(
    'input[type=file]',
    upload(
      'visits.csv',
      'date,landing page,sessions,bounces\n2026-10-01,/guides/frame-sizes/,9,1\n2026-10-01,/Guides/Frame-Sizes/index.html,5,1',
    ),
  );
  await page.getByRole('button', { name: 'Bring in 2 rows' }).click();
  await expect(page.getByText('2 rows by landing page are in')).toBeVisible();
  await page.getByRole('link', { name: 'Addresses' }).click();
  const left = page.getByRole('region', { name: 'In landing-page figures, not in search figures' });
  const row = left.getByRole('row').filter({ hasText: 'Frame-Sizes' });
  await expect(row).toContainText('/guides/frame-sizes/');
  await row.getByRole('button', { name: /^Join/ }).click();
  const byHand = page.getByRole('region', { name: 'Joined by hand' });
  await expect(byHand).toContainText('Frame-Sizes');
  await byHand.getByRole('button', { name: /^Part/ }).click();
  await expect(byHand).toHaveCount(0);
});
