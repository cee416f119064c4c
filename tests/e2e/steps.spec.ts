import { changeId, expect, test } from './support';

test.beforeEach(async ({ page, request }) => {
  await page.goto(`/sites/1/ledger/${await changeId(request, 'Description says delivery in two days')}`);
});

test('a step asks for its day, leaves a finished reading alone, is corrected and removed', async ({
  page,
}) => {
  const steps = page.getByRole('list', { name: 'Steps' });
  await expect(steps).toContainText('made 26 Aug');
  const settling = await page.getByLabel('settling days').inputValue();
  const verdict = await page.getByRole('main').getByRole('heading', { level: 2 }).first().textContent();
  await steps.getByRole('button', { name: 'crawled again?' }).click();
  await expect(
    steps.getByText(/The days after the change ended on .* The reading stays as it is\./),
  ).toBeVisible();
  await steps.getByRole('button', { name: 'Save' }).click();
  await expect(steps.getByRole('button', { name: 'crawled again 24 Nov' })).toBeFocused();
  await steps.getByRole('button', { name: 'crawled again 24 Nov' }).click();
  await steps.getByLabel('Day of “crawled again”').fill('2026-09-04');
  await steps.getByRole('button', { name: 'Save' }).click();
  await expect(steps.getByRole('button', { name: 'crawled again 4 Sep' })).toBeVisible();
  await expect(page.getByLabel('settling days')).toHaveValue(settling);
  expect(await page.getByRole('main').getByRole('heading', { level: 2 }).first().textContent()).toBe(verdict);
  await steps.getByRole('button', { name: 'crawled again 4 Sep' }).click();
  await steps.getByRole('button', { name: 'Remove' }).click();
  await expect(steps.getByRole('button', { name: 'crawled again?' })).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(steps.getByRole('button', { name: 'crawled again 4 Sep' })).toBeVisible();
});

test('a change is reworked and undone, and its chain reads from any of its parts', async ({ page }) => {
  await page.getByLabel('Reason').fill('It moved nothing.');
  await page.getByRole('button', { name: 'Rework', exact: true }).click();
  await expect(page.getByLabel('What was changed')).toHaveValue(
    'Description says delivery in two days, reworked',
  );
  await page.getByLabel('New text').fill('Another text');
  await page.getByRole('button', { name: 'Log the change' }).click();
  await expect(page.getByRole('heading', { name: 'Its chain of changes' })).toBeVisible();
  const chain = page.getByRole('list', { name: 'Its chain of changes' });
  await chain.getByRole('link', { name: 'Description says delivery in two days' }).click();
  await expect(page.getByText('It is worked on again. It moved nothing.')).toBeVisible();
  await expect(page.getByRole('list', { name: 'Steps' })).toContainText('decided 24 Nov');
  await page.getByRole('button', { name: 'Take the decision back' }).click();
  await page.getByRole('button', { name: 'Revert', exact: true }).click();
  await expect(page.getByLabel('What was changed')).toHaveValue(/^Undo: /);
  await expect(page.locator('select[name=kind]')).toHaveValue('undo');
  await page.getByRole('button', { name: 'Log the change' }).click();
  await expect(chain.getByRole('listitem')).toHaveCount(3);
});

test('a change that is still to be made waits until somebody says it was', async ({ page }) => {
  await page.goto('/sites/1/ledger/new');
  await page.getByLabel('What was changed').fill('Planned by a test');
  await page.getByLabel(/still to be made/).check();
  await page.getByLabel('Day', { exact: true }).fill('2026-10-01');
  await page.getByLabel('Pages').fill('/guides/wasps/');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Log the change' }).click();
  await expect(page.getByText('Still to be made.')).toBeVisible();
  const steps = page.getByRole('list', { name: 'Steps' });
  await steps.getByRole('button', { name: 'made?' }).click();
  await steps.getByRole('button', { name: 'Save' }).click();
  await expect(steps.getByRole('button', { name: 'made 24 Nov' })).toBeVisible();
  await expect(page.getByText('Still to be made.')).toHaveCount(0);
});

test('a script says what step a change came to, and logs nothing twice', async ({ request }) => {
  const data = { title: 'Released by a script', kind: 'speed', day: '2026-11-20', pages: ['/guides/wasps/'] };
  const headers = { 'Idempotency-Key': 'release-77' };
  const first = await (await request.post('/api/v1/sites/1/changes', { data, headers })).json();
  const again = await request.post('/api/v1/sites/1/changes', { data, headers });
  expect((await again.json()).id).toBe(first.id);
  const other = await request.post('/api/v1/sites/1/changes', { data: { ...data, title: 'Other' }, headers });
  expect(other.status()).toBe(422);
  const url = `/api/v1/changes/${first.id}`;
  const step = await request.post(`${url}/steps`, { data: { step: 'crawled', day: '2026-11-22' } });
  expect(await step.json()).toMatchObject({ steps: { crawled: '2026-11-22' }, planned: false });
  expect(
    (await request.post(`${url}/steps`, { data: { step: 'decided', day: '2026-11-22' } })).status(),
  ).toBe(422);
  const decided = await request.put(`${url}/decision`, {
    data: { decision: 'keep', reason: 'Fast.', day: '2026-11-23' },
  });
  expect(await decided.json()).toMatchObject({
    decision: { decision: 'keep', reason: 'Fast.' },
    steps: { decided: '2026-11-23' },
  });
  await request.delete(url);
});

test('an edit stands in the history and can be taken back; texts are compared word by word', async ({
  page,
}) => {
  await page.getByRole('link', { name: 'Edit', exact: true }).click();
  await page.getByLabel('Old text').fill('Hive tools, delivered');
  await page.getByLabel('New text').fill('Hive tools, delivered in two days');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.locator('ins')).toHaveText('in two days');
  await page.getByText(/^History, \d+ edits?$/).click();
  const edit = page.getByRole('listitem').filter({ hasText: 'old text, new text' }).first();
  await edit.getByRole('button', { name: 'Go back to before it' }).click();
  await expect(page.locator('ins').last()).toHaveText('yard, delivered in two days');
});

test('a change whose days are not over is named before another on its page is logged', async ({ page }) => {
  await page.goto('/sites/1/ledger/new');
  await page.getByLabel('What was changed').fill('Too soon by a test');
  await page.getByLabel('Pages').fill('/shop/candle-moulds/');
  await page.keyboard.press('Enter');
  await expect(
    page.getByText(/“Candle moulds shown in use” on \/shop\/candle-moulds\/ is read until/),
  ).toBeVisible();
  await page.getByLabel('Day', { exact: true }).fill('2027-03-01');
  await expect(page.getByText(/can no longer be told apart/)).toHaveCount(0);
});

test('a kind of one’s own is named once, and is among the kinds from then on', async ({ page }) => {
  await page.goto('/sites/1/ledger/new');
  await page.getByLabel('What was changed').fill('Prices as a table');
  await page.locator('select[name=kind]').selectOption('another kind …');
  await page.getByLabel('Pages').fill('/shop/fondant/');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Log the change' }).click();
  await expect(page.getByText('Say what kind of change it was.')).toBeVisible();
  await page.getByLabel('Name of the kind').fill('Price table');
  await page.getByRole('button', { name: 'Log the change' }).click();
  await expect(page.getByRole('main').getByText(/^Price table ·/)).toBeVisible();
  await page.goto('/sites/1/ledger/new');
  await expect(page.locator('select[name=kind] option[value=price-table]')).toHaveText('Price table');
});
