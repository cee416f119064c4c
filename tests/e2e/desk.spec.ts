import { expect, test } from './support';

test('the desk is the first screen, and each line opens where it is dealt with', async ({ page }) => {
  await page.goto('/');
  // Other tests may have added sites; who has several chooses one first.
  const several = page.getByRole('heading', { name: 'Your sites' });
  await expect(several.or(page.getByRole('heading', { name: 'Desk' }))).toBeVisible();
  if (await several.isVisible()) await page.getByRole('link', { name: 'Quillow Bee Yard' }).click();
  await expect(page.getByRole('heading', { name: 'Desk' })).toBeVisible();
  await expect(page.getByText(/things? due on 24 November 2026/)).toBeVisible();
  const reviews = page.getByRole('region', { name: 'Review due' });
  const [first] = await reviews.getByRole('link').all();
  const title = await first!.textContent();
  await first!.click();
  await expect(page.getByRole('heading', { name: title! })).toBeVisible();
});

test('what is due can be put off to a day, comes back with undo, and goes when it is done', async ({
  page,
}) => {
  await page.goto('/sites/1/desk');
  const reviews = page.getByRole('region', { name: 'Review due' });
  const lines = reviews.getByRole('listitem');
  const title = (await lines.first().getByRole('link').textContent())!;
  const line = lines.filter({ hasText: title });
  await line.getByRole('button', { name: /^Put/ }).click();
  await line.getByLabel(/off to$/).fill('2026-12-24');
  await line.getByRole('button', { name: 'put off' }).click();
  await expect(line).toHaveCount(0);
  // What had the focus is gone with its line: the keyboard goes on from the message, and from the screen after it.
  const undo = page.getByRole('button', { name: 'Undo' });
  await expect(undo).toBeFocused();
  await undo.press('Enter');
  await expect(line).toHaveCount(1);
  await expect(page.getByRole('main')).toBeFocused();
  await line.getByRole('link').click();
  await page.getByRole('list', { name: 'Steps' }).getByRole('button', { name: 'reviewed?' }).click();
  await page.getByRole('list', { name: 'Steps' }).getByRole('button', { name: 'Save' }).click();
  await expect(page.getByRole('button', { name: 'reviewed 24 Nov' })).toBeVisible();
  await page.goto('/sites/1/desk');
  await expect(line).toHaveCount(0);
});

test('review days are a calendar that a program can subscribe to', async ({ request }) => {
  const answer = await request.get('/api/v1/sites/1/reviews.ics');
  expect(answer.headers()['content-type']).toBe('text/calendar; charset=utf-8');
  const text = await answer.text();
  const lines = text.split('\r\n');
  // RFC 5545, 3.1: lines end with CRLF and have at most 75 octets; 3.6: one calendar with its properties.
  expect(Math.max(...lines.map((line) => Buffer.byteLength(line)))).toBeLessThanOrEqual(75);
  expect([lines[0], lines[1]]).toEqual(['BEGIN:VCALENDAR', 'VERSION:2.0']);
  expect(text).toMatch(/PRODID:/);
  const events = text.split('BEGIN:VEVENT').slice(1);
  expect(events.length).toBeGreaterThan(3);
  for (const event of events) {
    expect(event).toMatch(/\r\nUID:change-\d+@/);
    expect(event).toMatch(/\r\nDTSTAMP:\d{8}T\d{6}Z/);
    expect(event).toMatch(/\r\nDTSTART;VALUE=DATE:\d{8}\r\n/);
    expect(event).toMatch(/\r\nSUMMARY:Review: /);
  }
});
