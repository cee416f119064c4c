import { readFileSync } from 'node:fs';
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
  await expect(page.getByText('60,000 rows by page and query are in')).toBeVisible({ timeout: 20_000 });
  await page.goto(`${DEMO}/sites/1/intake`);
  await expect(page.getByRole('row').filter({ hasText: 'long.csv' })).toContainText('60,000');
});
