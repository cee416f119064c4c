import { expect, test } from './support';

const file = (name: string, text: string) => ({ name, mimeType: 'text/plain', buffer: Buffer.from(text) });

test('events come in from a calendar, those that are noted already once only, and go out as one', async ({
  page,
  request,
}) => {
  const calendar = [
    ...['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//x//EN', 'BEGIN:VEVENT', 'UID:1'],
    ...['DTSTAMP:20260101T000000Z', 'DTSTART;VALUE=DATE:20240310', 'DTEND;VALUE=DATE:20240313'],
    ...['SUMMARY:Bracken update', 'CATEGORIES:Algorithm update', 'END:VEVENT', 'END:VCALENDAR', ''],
  ].join('\r\n');
  await page.goto('/sites/1/almanac');
  const bringIn = page.getByLabel('Bring in a file');
  await bringIn.setInputFiles(file('a.ics', calendar));
  await expect(page.getByText('1 event noted.')).toBeVisible();
  const line = page.getByRole('listitem').filter({ hasText: 'Bracken update' });
  await expect(line).toContainText('10 Mar – 12 Mar 2024');
  await expect(line).toContainText('Algorithm update');
  await bringIn.setInputFiles(file('a.ics', calendar));
  await expect(page.getByText('0 events noted, 1 noted already.')).toBeVisible();
  await bringIn.setInputFiles(file('b.csv', 'name,kind,first day\n,Outage,2024-01-01'));
  await expect(page.getByText('Line 2: The event needs a name.')).toBeVisible();

  const saved = await (await request.get('/api/v1/sites/1/events.ics')).text();
  expect(saved).toContain('SUMMARY:Bracken update\r\n');
  expect(saved).toContain('DTSTART;VALUE=DATE:20240310\r\nDTEND;VALUE=DATE:20240313');
  expect(saved).toContain('CATEGORIES:Algorithm update');
});

test('an event of a group of pages is a doubt for those pages only, and can be kept off pictures', async ({
  request,
}) => {
  const { id } = await (
    await request.post('/api/v1/sites', { data: { name: 'Groups', address: 'groups.quillow-bees.example' } })
  ).json();
  await request.post(`/api/v1/sites/${id}/events`, {
    data: { name: 'Shop down', kind: 'outage', firstDay: '2026-09-05', group: '/shop/', hidden: true },
  });
  const log = async (path: string) => {
    const data = { title: path, kind: 'speed', day: '2026-09-01', pages: [path] };
    const change = await (await request.post(`/api/v1/sites/${id}/changes`, { data })).json();
    const reading = await (await request.get(`/api/v1/changes/${change.id}/reading`)).json();
    return (reading.cautions as { code: string }[]).map(({ code }) => code);
  };
  expect(await log('/shop/fondant/')).toContain('event-in-span');
  expect(await log('/guides/wasps/')).not.toContain('event-in-span');
  const wrong = { name: 'x', kind: 'outage', firstDay: '2026-09-05', group: 'shop' };
  expect((await request.post(`/api/v1/sites/${id}/events`, { data: wrong })).status()).toBe(422);
});

test('who moved across an update: the parts of the site and its pages, net of the rest', async ({ page }) => {
  await page.goto('/sites/1/almanac');
  await page.getByRole('link', { name: 'Who moved across Lantern update' }).click();
  await expect(
    page.getByText(/^Clicks of the whole site rose from .* Of 60 pages, \d+ rose and \d+ fell/),
  ).toBeVisible();
  const parts = page.getByRole('region', { name: 'Parts of the site', exact: true });
  const shop = parts.getByRole('row').filter({ hasText: '/shop/' });
  await expect(shop).toContainText(/9,8729,942\+0\.7%−\d+%/);
  await expect(shop).toContainText('rose, but less than the rest');
});

test('an edit of an event stands in its history and can be taken back', async ({ page }) => {
  await page.goto('/sites/1/almanac');
  await page.getByRole('button', { name: 'Edit Thistle update' }).click();
  const form = page.getByRole('form', { name: 'Edit Thistle update' });
  await form.getByLabel('Note').fill('Felt on guides.');
  await form.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('Felt on guides.')).toBeVisible();
  await page.getByRole('link', { name: 'Who moved across Thistle update' }).click();
  await page.getByText('History, 1 edit').click();
  await page.getByRole('button', { name: 'Go back to before it' }).click();
  await expect(page.getByText('It says again what it said before that edit.')).toBeVisible();
  await page.goto('/sites/1/almanac');
  await expect(page.getByText('Felt on guides.')).toHaveCount(0);
});
