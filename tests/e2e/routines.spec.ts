import { readFileSync } from 'node:fs';
import { expect, test } from './support';

test('a routine is kept, stands on the desk when it is due, and is ticked off with who and when', async ({
  page,
}) => {
  await page.goto('/sites/1/routines');
  await expect(page.getByRole('heading', { name: 'A monthly look' })).toBeVisible();
  await page.getByRole('button', { name: 'One of your own' }).click();
  await page.getByLabel('Name of the routine').fill('Weekly glance');
  await page.getByLabel('Step 1', { exact: true }).fill('See what fell');
  await page.getByLabel('View of step 1').fill('/desk');
  await page.getByRole('button', { name: 'Add a step' }).click();
  await page.getByLabel('Step 2', { exact: true }).fill('Tell the others');
  await page.getByLabel('Repeats').selectOption('another rule …');
  await page.getByLabel('Rule', { exact: true }).fill('every Monday');
  await page.getByRole('button', { name: 'Keep the routine' }).click();
  await expect(page.getByText(/That is no rule of RFC 5545/).first()).toBeVisible();
  await page.getByLabel('Repeats').selectOption('every Monday');
  await page.getByLabel('From', { exact: true }).fill('2026-11-01');
  await page.getByRole('button', { name: 'Keep the routine' }).click();
  const own = page.getByRole('region', { name: 'Weekly glance' });
  await expect(own.getByText('Due since 23 Nov 2026, next on 30 Nov 2026.')).toBeVisible();

  await page.goto('/sites/1/desk');
  await expect(page.getByRole('heading', { name: 'Routines' })).toBeVisible();
  await page.getByRole('link', { name: 'Weekly glance' }).click();
  await page.goto('/sites/1/routines');
  await own.getByLabel('ticked off by').fill('RT');
  await own.getByLabel('Done: See what fell').click();
  await expect(own.getByText(/^RT, \d+ \w+ 20\d\d$/)).toBeVisible();
  await own.getByLabel('Done: Tell the others').click();
  await expect(own.getByText('Done for 23 Nov 2026, next on 30 Nov 2026.')).toBeVisible();
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    own.getByRole('link', { name: 'Markdown of Weekly glance' }).click(),
  ]);
  expect(readFileSync((await download.path())!, 'utf8')).toMatch(
    /1\. \[See what fell\]\(http.*\/sites\/1\/desk\)/,
  );
  await page.goto('/sites/1/desk');
  await expect(page.getByRole('link', { name: 'Weekly glance' })).toHaveCount(0);
  await page.goto('/sites/1/routines');
  await own.getByRole('button', { name: 'Take away Weekly glance' }).click();
  await expect(own).toHaveCount(0);
});
